<?php

declare(strict_types=1);

namespace Fasti\Core\Privacy;

/** Tells what is about people: names, addresses, numbers that somebody can be reached or known by; by name and by content. */
final class People
{
    /** Whole words, or several together, in English and in what is written alike elsewhere. */
    private const WORDS = '/(?:^|_)(?:surname|(?:first|last|given|family|middle|maiden|full|birth|legal|preferred|nick)_?names?|'
        .'forenames?|lastname|firstname|fullname|e_?mails?(?:_?(?:address|addr|primary|secondary|work|home|private|2|1))?|mail(?:_?address)?|'
        .'phones?(?:_?(?:no|nr|num|number|home|work|mobile|private|1|2))?|telephone(?:_?(?:no|number))?|tel(?:_?(?:no|nr|number))?|'
        .'telefax|mobile(?:_?(?:no|nr|number|phone))?|cell_?(?:phone|no|number)?|(?:home|work|private|contact|emergency)_?(?:phone|'
        .'tel|mobile|email|address)|fax(?:_?(?:no|nr|number))?|street(?:_?(?:name|no|nr|number|address|line|1|2))?|house_?(?:no|'
        .'nr|number)|address(?:_?(?:line)?_?\d)?|addr(?:ess)?_?(?:street|line|city|zip|postcode)?|(?:home|postal|mailing|billing|'
        .'shipping|delivery|residential|street|private)_?address(?:_?\d)?|postcode|post_?code|postal_?code|zip(?:_?code)?|birth_?(?:date|'
        .'day|place|year)|date_?of_?birth|place_?of_?birth|dob|born(?:_?on)?|gender|sex|passport(?:_?(?:no|nr|number|id))?|iban|'
        .'bic|bank_?account(?:_?(?:no|nr|number))?|account_?holder|(?:credit_?)?card_?(?:no|nr|number|holder)|ssn|national_?(?:id|'
        .'insurance_?(?:no|number))|ni_?number|nino|tax_?(?:id|no|number|payer_?id)|insurance_?(?:no|number)|social_?security(?:_?(?:no|'
        .'number))?|driving_?licen[cs]e(?:_?(?:no|number))?|driver_?licen[cs]e(?:_?(?:no|number))?|salary|wage|wages|income|ip_?addr(?:ess)?|'
        .'ip|ipv4|ipv6|remote_?(?:ip|addr)|client_?ip|last_?login_?ip|mac_?address|device_?id|user_?agent|emergency_?contact|next_?of_?kin|'
        .'signature|nationality|ethnicity|religion|marital_?status|disability|blood_?(?:type|group)|diagnosis|medical_?\w*|allerg(?:y|'
        .'ies)|weight_?kg_?person|username|user_?name|login(?:_?name)?|skype|twitter|whatsapp|face_?image|photo_?url|geo_?location|'
        .'home_?(?:lat|lon)\w*|vehicle_?registration|licen[cs]e_?plate|number_?plate)$/';
    /** Words of other languages, also where they run together with others. */
    private const WITHIN = '/vor_?name|nach_?name|familien_?name|(?:^|_)zuname|geburts_?(?:datum|tag|ort|name|jahr)|geb_?(?:datum|'
        .'dat|tag)(?:$|_)|geschlecht|anrede|(?:^|_)strasse|(?:strasse|strassen_?name)$|haus_?(?:nr|nummer)|postleitzahl|(?:^|_)plz(?:$|'
        .'_)|(?:^|_)(?:wohn_?)?ort$|wohnort|anschrift|adresse|telefon|(?:^|_)handy|mobil_?(?:nr|nummer|telefon)?$|rufnummer|steuer_?(?:nr|'
        .'nummer|id)|sozialversicherung|versicherten_?(?:nr|nummer)|kontonummer|konto_?(?:nr|inhaber)|kreditkarte|personalausweis|'
        .'ausweis_?(?:nr|nummer)|staatsangehoerigkeit|familienstand|(?:^|_)gehalt|(?:^|_)lohn(?:$|_)|konfession'
        .'|(?:^|_)prenom|nom_?(?:de_?famille|complet|usage|naissance)|(?:^|_)nom$|date_?(?:de_?)?naissance|lieu_?(?:de_?)?naissance|'
        .'(?:^|_)ne_?le$|(?:^|_)sexe$|civilite|(?:^|_)rue$|code_?postal|(?:^|_)ville$|courriel|(?:^|_)mel$|portable|numero_?(?:de_?)?(?:telephone|'
        .'securite_?sociale|carte|compte|rue)|(?:^|_)nir$|securite_?sociale|salaire|situation_?familiale|nationalite'
        .'|(?:^|_)nombres?$|nombre_?(?:completo|pila|de_?pila)|apellidos?|fecha_?(?:de_?)?nac(?:imiento)?|lugar_?(?:de_?)?nacimiento|'
        .'(?:^|_)sexo$|genero$|(?:^|_)calle|direccion|domicilio|codigo_?postal|(?:^|_)ciudad$|correo|(?:^|_)movil|telefono|(?:^|_)dni$|'
        .'(?:^|_)nif$|(?:^|_)nie$|pasaporte|numero_?(?:de_?)?(?:cuenta|tarjeta|seguridad_?social)|salario|sueldo|estado_?civil|nacionalidad'
        .'|(?:^|_)nome$|nome_?(?:completo|proprio)|cognome|data_?(?:di_?)?nascita|luogo_?(?:di_?)?nascita|(?:^|_)sesso$|indirizzo|'
        .'(?:^|_)via$|(?:^|_)cap$|(?:^|_)citta$|cellulare|codice_?fiscale|partita_?iva|stipendio|carta_?(?:di_?)?(?:credito|identita)|'
        .'stato_?civile|recapito|posta_?elettronica'
        .'|voor_?naam|achter_?naam|(?:^|_)naam$|roep_?naam|tussenvoegsel|voorletters|geboorte_?(?:datum|plaats|jaar)|geslacht|(?:^|'
        .'_)straat|huis_?(?:nr|nummer)|(?:^|_)woonplaats|(?:^|_)adres$|telefoon|mobiel|(?:^|_)bsn$|burgerservicenummer|rekening_?(?:nr|'
        .'nummer)|paspoort|salaris|nationaliteit|burgerlijke_?staat|e_?mail_?adres'
        .'|(?:^|_)imie$|imiona|nazwisko|data_?urodzenia|miejsce_?urodzenia|(?:^|_)plec$|(?:^|_)ulica|nr_?domu|numer_?domu|kod_?pocztowy|'
        .'miejscowosc|(?:^|_)miasto$|komorka|(?:^|_)pesel$|numer_?(?:telefonu|konta|dowodu|paszportu|karty)|nr_?(?:telefonu|konta|'
        .'dowodu)|dowod_?osobisty|wynagrodzenie|pensja|narodowosc|stan_?cywilny|(?:^|_)adres(?:_|$)'
        .'|primeiro_?nome|sobrenome|apelido|data_?(?:de_?)?nascimento|morada|endereco|(?:^|_)rua$|telemovel|(?:^|_)cpf$|(?:^|_)fornamn|'
        .'efternamn|foedelse_?dat|fodelsedat|personnummer|gatuadress|postnummer|telefonnummer|(?:^|_)etunimi|sukunimi|syntymaaika|'
        .'henkilotunnus|(?:^|_)jmeno|prijmeni|datum_?narozeni|rodne_?cislo|(?:^|_)fornavn|etternavn|efternavn|foedselsdato|fodselsdato|'
        .'cpr_?(?:nr|nummer)|keresztnev|vezeteknev|szuletesi/';
    /** Words that make of those above something else. */
    private const NONE = '/(?:^|_)(?:server_?address|mac_?table|memory_?address|web_?address|url_?address|contract_?address|email_?(?:template|'
        .'subject|body|campaign|domain|type|list)\w*|mail_?(?:server|host|port|queue|merge)\w*|phone_?(?:model|brand|type|os)\w*|'
        .'street_?(?:light|lights|lamp|type|width|category)\w*|ip_?(?:range|version|rating|class|protection|code)\w*|sex_?ratio|'
        .'ort_?(?:id|typ)|mobile_?(?:app|first|friendly|url|version|menu)\w*|cell_?(?:type|count|volume|line|size|colour|color|'
        .'ref)\w*|fax_?enabled|address_?(?:type|count|format|label|book)\w*|signature_?(?:required|date|type|count)\w*|birth_?rate|'
        .'born_?alive|income_?(?:tax_rate|account|type)|salary_?(?:band|grade|currency)|login_?(?:count|attempts|at|type|url|enabled)|'
        .'gender_?(?:neutral|count)|file_?name|host_?name|device_?(?:type|model|count|name)|photo_?url_?template|card_?(?:type|'
        .'brand|colour|color|count|title|layout)|account_?(?:type|status|no_of)|house_?(?:type|count)|nom_?(?:du_)?(?:produit|fichier|'
        .'table|champ|espece|cours|scientifique)|nome_?(?:file|prodotto|tabella)|nombre_?(?:de_)?(?:archivo|producto|tabla|veces|'
        .'jours|articles|pieces|lignes)\w*|naam_?(?:product|bestand)|medical_?(?:device|supply|category)\w*|adres_?ip_?serwera|'
        .'telefon_?typ|via_?(?:api|import|channel))$/';
    private const PEOPLE = '/(?:^|_)(?:persons?|people|members?|volunteers?|(?:land)?owners?|customers?|clients?|employees?|staff|'
        .'contacts?|users?|patients?|donors?|observers?|contractors?|tenants?|students?|teachers?|personen?|mitarbeiter|kunden?|'
        .'benutzer|mitglied(?:er)?|schueler|patienten|lehrer|spender|personnes?|salaries?|adherents?|utilisateurs?|eleves|membres?|'
        .'personas?|clientes?|empleados?|usuarios?|alumnos?|socios?|miembros?|persone|clienti|dipendenti|utenti|soci|studenti|personen|'
        .'klanten|medewerkers?|gebruikers?|leden|leerlingen|osoby|osoba|klienci|pracownicy|uzytkownicy|czlonkowie|uczniowie|pessoas|'
        .'clientes|funcionarios|anvaendare|kunder)$/';
    private const OF_PEOPLE = '/^(?:name|names|nick_?name|display_?name|title|initials|naam|nom|nome|nombre|nazwa|namn)$|_(?:name|naam|nom|nome)$/';
    private const CONTACT = '/(?:^|_)(?:contact|observer|observed_by|recorder|recorded_by|landlord|tenant|owner|author|created_by|'
        .'manager|signed_by|approved_by|reviewer|supervisor|responsible|ansprechpartner|bearbeiter|besitzer|inhaber|verantwortlich\w*|'
        .'responsable|proprietaire|auteur|propietario|autor|encargado|proprietario|referente|eigenaar|contactpersoon|wlasciciel|'
        .'kontakt|opiekun)(?:_?(?:name|person))?$/';
    private const ADDRESS = '~^\d{1,4}[a-z]?,? (?:rue|avenue|boulevard|bd|chemin|impasse|place|allee|quai|route)\b|^\d{1,5}[A-Za-z]? '
        .'(?:[\p{L}\'.-]+ ){1,4}(?:street|st|road|rd|lane|ln|avenue|ave|drive|dr|close|court|ct|way|place|terrace|crescent|gardens|'
        .'square|row|hill|mews)\b\.?|^(?:[\p{L}.-]+[ -]){0,4}[\p{L}-]*(?:stra(?:ss|ß)e|str\.|weg|gasse|platz|allee|ring|damm|ufer|'
        .'straat|laan|plein|gracht|kade|gatan|vaegen|vägen|veien|vej|katu) ?\d{1,4} ?[a-z]?\b|^(?:calle|c/|avenida|avda\.?|plaza|'
        .'paseo|camino|via|viale|piazza|corso|vicolo|largo|ulica|ul\.|aleja|al\.|plac|pl\.|os\.|rua|travessa|praca|praça|rue|avenue|'
        .'boulevard)[ .] ?[\p{L}\'. -]+,? ?(?:n[.ºo°]* ?)?\d{1,5}~iu';
    private const MAIL = '/[^\s@,;<>()"]{1,64}@[a-z0-9-]+(?:\.[a-z0-9-]+)*\.[a-z]{2,}/i';
    private const CALL = '~(?<![\w.,/-])(?:\+|00)[1-9]\d{0,2}[ ()/.-]{0,3}\d(?:[ ()/.-]{0,2}\d){6,12}(?!\w)|\b(?:tel|telefon|phone|'
        .'mobile|mobil|handy|call|ring|fax|tél|teléfono|cell)\w{0,6}[.:]{0,2} {0,2}(?:no\.? )?\(?0\d[\d ()/.-]{6,16}~i';

    /**
     * @param string       $likely what the field is likely to be; see Profile\Likely
     * @param list<string> $values
     *
     * @return string the reason, '' for none
     */
    public static function reason(string $table, FieldName $name, string $likely, array $values): string
    {
        return self::byName($name, $values) ?: self::byForm($name, $likely, $values) ?: self::named($table, $name, $values);
    }

    /** @param list<string> $values */
    private static function byName(FieldName $name, array $values): string
    {
        if ($name->isAbout() || null !== $name->matches(self::NONE)) {
            return '';
        }
        $found = $name->matches(self::WORDS) ?? $name->matches(self::WITHIN);
        if (null === $found || (\count($values) > 4 && self::onlyFlags($values) && 1 !== preg_match('/gender|sex|plec|geschlecht|sesso|geslacht/', $found))) {
            return '';
        }

        return \sprintf('its name speaks of “%s”', $found);
    }

    /** @param list<string> $values */
    private static function onlyFlags(array $values): bool
    {
        return [] === array_filter($values, static fn (string $value): bool => 1 !== preg_match('/^(?:0|1|t|f|true|false|y|n|yes|no)$/i', $value));
    }

    /** @param list<string> $values */
    private static function byForm(FieldName $name, string $likely, array $values): string
    {
        $count = \count($values);
        if (0 === $count) {
            return '';
        }
        $share = static fn (callable $fits): float => \count(array_filter($values, $fits)) / $count;

        return match (true) {
            'e-mail address' === $likely, $share(
                static fn (string $v): bool => 1 === preg_match('/^'.substr(self::MAIL, 1, -2).'$/i', trim($v)),
            ) >= 0.5 => 'its values are e-mail addresses',
            'telephone number' === $likely => 'its values are telephone numbers',
            $count >= 3 && $share(Numbers::isCard(...)) >= 0.9 => 'its values are card numbers',
            $share(Numbers::isIban(...)) >= 0.5 => 'its values are bank accounts',
            null === $name->matches('/version|release/')
                && $share(static fn (string $v): bool => false !== filter_var(trim($v), \FILTER_VALIDATE_IP)) >= 0.8 => 'its values are IP addresses',
            $count >= 3 && $share(static fn (string $v): bool => 1 === preg_match(self::ADDRESS, trim($v))) >= 0.4 => 'its values are postal addresses',
            $count >= 3 && self::namesPeople($name, $values) => 'its values are names of people',
            $share(static fn (string $v): bool => 1 === preg_match(self::MAIL, $v)) >= min(0.01, 1 / $count) => 'its texts hold e-mail addresses',
            $share(static fn (string $v): bool => 1 === preg_match(self::CALL, $v)) >= min(0.01, 1 / $count) => 'its texts hold telephone numbers',
            default => '',
        };
    }

    /** @param list<string> $values */
    private static function namesPeople(FieldName $name, array $values): bool
    {
        $different = array_values(array_unique($values));
        if (\count($different) < 3
            || null !== $name->matches(
                '/(?:^|_)(?:species|station|place|city|town|country|site|river|street|product|company'
                    .'|organi[sz]ation|genus|brand|model|month|day|colour|color|project|team|parish|county|region|lake|mountain|title'
                    .'|boat|ship|vessel|street_?name|hurricane|storm|font|server|host)(?:$|_)/',
            )) {
            return false;
        }
        $first = GivenNames::all();
        $of = static function (string $value) use ($first): bool {
            $words = preg_split('/[\s,]+/u', mb_strtolower(trim($value)), -1, \PREG_SPLIT_NO_EMPTY) ?: [];

            return [] !== $words
                && \count($words) <= 4
                && (isset($first[$words[0]])
                    || (\count($words) > 1 && isset($first[$words[\count($words) - 1]]))
                    || (\count($words) > 2 && isset($first[$words[1]])));
        };
        $known = \count(array_filter($different, $of)) / \count($different);
        $formed = \count(array_filter($different, self::looksLikeName(...))) / \count($different);
        $single = \count(array_filter($different, static fn (string $value): bool => 1 === preg_match("/^\p{Lu}[\p{L}'’-]+$/u", $value))) / \count($different);

        return ($formed >= 0.7 && $known >= 0.35) || ($single >= 0.9 && $known >= 0.7);
    }

    private static function looksLikeName(string $value): bool
    {
        return 1 === preg_match(
            "/^(?:\p{Lu}[\p{L}'’.-]+|\p{Lu}\.|d[eiau]|van|von|der|den|del|della|la|le|ter|ten|zu),?(?: "
                ."(?:\p{Lu}[\p{L}'’.-]*|d[eiau]|van|von|der|den|del|della|la|le|ter|ten|zu),?){1,4}$/u",
            $value,
        );
    }

    /** @param list<string> $values */
    private static function named(string $table, FieldName $name, array $values): string
    {
        $text = [] !== array_filter($values, static fn (string $value): bool => 1 === preg_match('/\p{L}{2}/u', $value));
        if (!$text) {
            return '';
        }
        $of = FieldName::of($table);
        if (null !== $of->matches(self::PEOPLE) && null !== $name->matches(self::OF_PEOPLE)) {
            return 'it names people, by the name of its table';
        }
        $fits = \count(array_filter($values, self::looksLikeName(...)));

        return null !== $name->matches(self::CONTACT) && $fits >= 0.6 * max(1, \count($values)) ? 'it seems to name people' : '';
    }
}
