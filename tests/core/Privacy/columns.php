<?php

declare(strict_types=1);

/*
 * 300 columns with the kind of their values, in six languages: those whose values may not be kept, and those that only look
 * like them. Each is table.column kind; see RecognitionTest for what the kinds are. Written before the rules were tried on it.
 */
return [
    'closed' => [
        'en' => 'users.password hash, accounts.pwd_hash hash, api_client.clientSecret token, device.auth_token token, member.ResetToken hex, '
            .'session.session_id hex, employee.first_name given, employee.surname words, '
            .'person.fullName name, customer.emailAddress mail, contact.mobile_no phone, contact.work_phone phone, supplier.street address, '
            .'site_visit.home_address address, member.postcode zip, member.dob date, '
            .'staff.gender sex, staff.salary number, order.credit_card_number card, payment.iban iban, visitor.ip ip, log.remote_addr ip, '
            .'staff.national_insurance_no code, staff.passport_number code, '
            .'message.body textmail, ticket.description textphone, visit.observed_by name, permit.holder name, settings.value jwt, users.otp_seed base32',
        'de' => 'benutzer.passwort hash, konto.kennwort_hash hash, mitarbeiter.vorname given, mitarbeiter.Nachname words, mitarbeiter.Geburtsdatum date, '
            .'mitarbeiter.GEB_DAT date, kunde.strasse address, kunde.Straße address, '
            .'kunde.hausnummer number, kunde.plz zip, kunde.wohnort town, kunde.telefonnummer phone, kunde.handy phone, kunde.emailAdresse mail, '
            .'person.geschlecht sex, person.anrede sex, person.steuerId code, '
            .'person.sozialversicherungsnr code, konto.iban iban, konto.kontonummer code, mitarbeiter.gehalt number, personen.name name, '
            .'schnittstelle.api_schluessel token, sitzung.sitzungs_schluessel hex, '
            .'kunde.anschrift address, ausweis.ausweisnummer code, person.staatsangehoerigkeit words, notiz.text textphone, kontakt.ansprechpartner name, '
            .'anmeldung.geheimnis token',
        'fr' => 'utilisateur.mot_de_passe hash, compte.mdp hash, client.prenom given, client.nomDeFamille words, client.nom words, adherent.date_naissance '
            .'date, adherent.lieu_naissance town, client.rue address, '
            .'client.codePostal zip, client.ville town, client.telephone phone, client.portable phone, client.courriel mail, client.adresse_mail mail, '
            .'personne.sexe sex, personne.civilite sex, '
            .'personne.numero_securite_sociale code, compte.numero_compte code, salarie.salaire number, client.adresse address, personnes.nom_complet '
            .'name, jeton_acces.jeton token, api.cle_secrete token, '
            .'patient.nationalite words, client.situation_familiale words, visite.remarque textmail, contact.responsable name, carte.numero card, '
            .'connexion.adresse_ip ip, eleves.nom words',
        'es' => 'usuario.contrasena hash, usuario.clave hash, cliente.nombre given, cliente.apellidos words, cliente.fecha_nacimiento date, '
            .'cliente.fechaNac date, cliente.calle address, cliente.direccion address, '
            .'cliente.codigo_postal zip, cliente.ciudad town, cliente.telefono phone, cliente.movil phone, cliente.correo mail, cliente.correo_electronico '
            .'mail, persona.sexo sex, persona.dni code, persona.nif code, '
            .'persona.pasaporte code, cuenta.numero_cuenta code, cuenta.iban iban, empleado.salario number, empleado.sueldo number, '
            .'personas.nombre_completo name, api.clave_secreta token, sesion.token hex, '
            .'persona.estado_civil words, persona.nacionalidad words, aviso.comentario textphone, obra.encargado name, pago.tarjeta card',
        'nl' => 'gebruiker.wachtwoord hash, gebruiker.wachtwoord_hash hash, klant.voornaam given, klant.achternaam words, klant.tussenvoegsel words, '
            .'klant.geboortedatum date, klant.straat address, klant.huisnummer number, '
            .'klant.postcode zip, klant.woonplaats town, klant.telefoonnummer phone, klant.mobiel phone, klant.emailadres mail, klant.e_mail mail, '
            .'persoon.geslacht sex, persoon.bsn code, persoon.burgerservicenummer code, '
            .'persoon.paspoortnummer code, rekening.rekeningnummer iban, rekening.iban iban, medewerker.salaris number, personen.naam name, '
            .'koppeling.geheime_sleutel token, koppeling.toegangscode hex, '
            .'klant.adres address, persoon.nationaliteit words, persoon.burgerlijke_staat words, notitie.tekst textmail, bezoek.contactpersoon name, '
            .'login.ip_adres ip',
        'pl' => 'uzytkownik.haslo hash, konto.haslo_skrot hash, klient.imie given, klient.nazwisko words, klient.data_urodzenia date, klient.ulica '
            .'address, klient.nr_domu number, klient.kod_pocztowy zip, '
            .'klient.miejscowosc town, klient.telefon phone, klient.telefonKomorkowy phone, klient.email mail, klient.adres_email mail, osoba.plec sex, '
            .'osoba.pesel code, osoba.numer_dowodu code, osoba.numer_paszportu code, '
            .'konto.numer_konta iban, pracownik.wynagrodzenie number, osoby.imie_nazwisko name, api.klucz_api token, api.klucz_prywatny pem, klient.adres '
            .'address, osoba.narodowosc words, osoba.stan_cywilny words, '
            .'uwaga.tresc textphone, wizyta.opiekun name, sesja.token hex, logowanie.adres_ip ip, platnosc.nr_karty card',
    ],
    'open' => [
        'en' => 'token.token_count number, metrics.pass_rate number, station.name place, product.name thing, species.latin_name latin, email.template_id '
            .'number, mail_queue.sent_at time, phone.model thing, street.street_lights number, '
            .'build.commit hex40, file.checksum hex32, file.sha256 hex64, document.etag hex32, item.uuid uuid, article.title thing, '
            .'person.notification_enabled flag, users.email_verified flag, water.salt_content number, '
            .'circuit.pin_count number, article.keywords words, table.primary_key words, app.version version, server.host_name host, host.public_key '
            .'words, page.url url',
        'de' => 'artikel.bezeichnung thing, artikel.name thing, messstelle.name place, messung.wert number, messung.einheit words, '
            .'bestellung.bestellnummer code, lager.ort_id number, geraet.seriennummer serial, '
            .'vorgang.status words, datei.pruefsumme hex32, bericht.titel thing, flaeche.groesse number, einstellung.schluessel words, '
            .'benutzer.telefon_typ words, kunde.email_bestaetigt flag, wetter.ort_typ words, '
            .'rechnung.betrag number, projekt.projektname thing, tier.art latin, baum.hoehe number',
        'fr' => 'produit.libelle thing, produit.nom_du_produit thing, station.nom_station place, mesure.valeur number, mesure.unite words, '
            .'commande.reference code, espece.nom_scientifique latin, dossier.statut words, '
            .'fichier.nom_fichier file, article.titre thing, cours.nombre_de_jours number, appareil.numero_serie serial, parametre.cle words, carte.titre '
            .'thing, facture.montant number, releve.profondeur number, '
            .'document.somme_de_controle hex32, equipe.couleur words, projet.intitule thing',
        'es' => 'producto.descripcion thing, pedido.referencia code, medida.valor number, medida.unidad words, estacion.codigo code, '
            .'archivo.nombre_archivo file, especie.nombre_cientifico latin, factura.importe number, '
            .'articulo.titulo thing, equipo.numero_serie serial, parametro.valor number, visita.nombre_de_veces number, rio.longitud number, '
            .'estado.descripcion words, documento.hash hex64, curso.plazas number, '
            .'sensor.marca words, campo.superficie number, tarea.prioridad number',
        'nl' => 'artikel.omschrijving thing, meting.waarde number, meting.eenheid words, meetpunt.naam place, bestelling.nummer code, soort.latijnse_naam '
            .'latin, bestand.bestandsnaam file, factuur.bedrag number, project.titel thing, '
            .'apparaat.serienummer serial, instelling.sleutel words, gewas.soort words, perceel.oppervlakte number, klant.email_soort words, '
            .'status.omschrijving words, water.diepte number, document.versie version, kaart.titel thing',
        'pl' => 'produkt.opis thing, produkt.nazwa thing, pomiar.wartosc number, pomiar.jednostka words, zamowienie.numer code, gatunek.nazwa_lacinska '
            .'latin, plik.nazwa_pliku file, faktura.kwota number, artykul.tytul thing, '
            .'urzadzenie.numer_seryjny serial, ustawienie.klucz words, stacja.nazwa place, dokument.suma_kontrolna hex32, pole.powierzchnia number, '
            .'status.opis words, rzeka.dlugosc number, kurs.liczba_miejsc number, '
            .'zadanie.priorytet number, sprzet.typ words',
    ],
];
