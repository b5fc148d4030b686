<?php

declare(strict_types=1);

namespace Fasti\Core\Privacy;

/** Tells secrets: password hashes, tokens, keys; by the names of fields in the languages of Europe, and by what values look like. */
final class Secrets
{
    /** Whole words, or several together. */
    private const WORDS = '/(?:^|_)(?:pass(?:wd|wort|word|phrase|code|hash)?|passwords?|pwd|pswd|pw|pass_?(?:w(?:or)?d|phrase|'
        .'hash|code|key)\w*|pw_?hash|secrets?|(?:client|app|shared|consumer|webhook|hmac|jwt|signing|oauth|otp|totp|mfa)_?secret|'
        .'(?:api|private|privkey|access|auth|signing|encryption|crypto|session|ssh|gpg|pgp|license|licence|client|secret|consumer|'
        .'master|storage|account|webhook|hmac|jwt|deploy|service|activation|recovery|remember|reset|verification|confirmation|unsubscribe|'
        .'login|bearer|id|refresh|csrf|xsrf|device|push|fcm|apns|invite|invitation|oauth|two_factor|magic|auth_?link)_?(?:key|token|'
        .'hash|secret|salt|nonce)s?\w{0,2}|tokens?|salt|nonce|otp(?:_?(?:seed|code))?|totp|mfa_?(?:seed|code)|(?:recovery|backup|'
        .'scratch|security|verification|activation|unlock|access|login|auth)_?codes?|pin_?(?:code|hash|number)?|pin|puk|credentials?|'
        .'cvv2?|cvc2?|cvn|security_?answer|(?:cookie|session)_?(?:id|hash|data|value)|sessid|keystore|truststore|certificate_?key|'
        .'private_?pem|seed_?phrase|mnemonic)(?:$|_\d*$|_(?:hash|digest|enc|encrypted|salt|value|md5|sha\d*|bcrypt|crypt|old|new|'
        .'plain|text|str|string|raw|b64|hex|data|current|temp|tmp|\d+)\b)/';
    /** Words that nothing else in the languages of Europe contains, also where words run together. */
    private const WITHIN = '/passwor[dt]|passwd|kennwort|losungswort|geheim(?:nis|schluessel|wort)|zugangscode|motdepasse|mot_de_passe|'
        .'mdp(?:$|_)|cle_?(?:secrete|privee|api)|jeton|contrasena|clave_?(?:secreta|privada|acceso|api)?(?:$|_(?:hash|usuario|acceso|'
        .'secreta))|palabra_?clave_?secreta|wachtwoord|geheime?_?sleutel|toegangscode|haslo|sekret|klucz_?(?:prywatny|api|dostepu|'
        .'tajny)|kod_?pin|parola_?(?:chiave|ordine|d_ordine)?(?:$|_hash)|chiave_?(?:privata|segreta|api)|segreto|senha|chave_?(?:privada|'
        .'secreta|api)|segredo|loesenord|losenord|lozenord|hemlig|adgangskode|passord|salasana|heslo|jelszo|parole_?hash|api_?schluessel|'
        .'privater_?schluessel|sitzungs_?schluessel|zugriffs_?token/';
    /** What reads like a secret and is none: keys of a table, sums that anybody may see. */
    private const NONE = '/(?:^|_)(?:public_?key|primary_?key|foreign_?key|sort_?key|cache_?key|partition_?key|natural_?key|surrogate_?key|'
        .'translation_?key|message_?key|key_?words?|keyboard|key_?name|key_?(?:figure|ratio|date|account)\w*|passport\w*|password_?(?:changed|'
        .'policy|hint|strength|expires?|expiry|updated|reset_at|last_changed|failed|attempts|rounds|cost|algorithm|algo|version|'
        .'min_length)\w*|passenger\w*|compass\w*|bypass\w*|pass_?(?:rate|count|type|fail|mark|percentage|number)|passed|passing|'
        .'salt_?(?:content|concentration|level|water)\w*|salted|token_?(?:count|type|kind|length|limit|name|usage|expires\w*|expiry|'
        .'ttl|price|symbol|standard)\w*|session_?(?:count|type|name|title|start|end|date|length|room|number|minutes)\w*|pin_?(?:count|'
        .'type|number_of|layout|diameter|size|pitch)\w*|pinned\w*|secretar\w*|hash_?tag\w*|pass_?through|access_?(?:level|date|'
        .'time|type|count|road|notes)|key_?stage|security_?(?:level|class|deposit)|verification_?(?:status|date|level|method|type)|'
        .'activation_?(?:date|status)|nonce_?count)$/';

    /** Reason → form. Each is told from anything else by its first signs. */
    private const FORMS = [
        'its values are password hashes' => '~^(?:\$(?:2[abxy]?|5|6|1|y|gy|7|md5|sha1|apr1|P|H|S)\$[./A-Za-z0-9$=,+-]{8,}|\$argon2(?:id|'
            .'i|d)\$v=|\$scrypt\$|\$pbkdf2|\$bcrypt-sha256\$|\$NT\$|\{(?:SSHA|SHA|SMD5|MD5|CRYPT|PBKDF2|BCRYPT|ARGON2|CLEARTEXT)[^}]*\}|'
            .'(?:bcrypt|pbkdf2|argon2|scrypt|sha1|md5)(?:_sha\d+)?(?:\$|:)\S{16,}|scrypt[:$]|SCRAM-SHA-(?:1|256)\$|sha(?:1|256|'
            .'512)[:$]\S{20,}|\*[0-9A-F]{40}$|md5[0-9a-f]{32}$|0x0200[0-9A-F]{60,}$)~',
        'its values are tokens' => '~^(?:eyJ[A-Za-z0-9_-]{8,}\.[A-Za-z0-9_-]{4,}\.|gh[pousr]_[A-Za-z0-9]{20,}|github_pat_|xox[abprs]-|'
            .'[sr]k_(?:live|test)_|AKIA[0-9A-Z]{16}$|ASIA[0-9A-Z]{16}$|AIza[0-9A-Za-z_-]{30,}|glpat-|npm_[A-Za-z0-9]{30,}|SG\.[\w-]{16,}\.|'
            .'ya29\.|EAA[A-Za-z0-9]{30,}|sq0(?:atp|csp)-|Bearer\s|Basic [A-Za-z0-9+/=]{8,}$|otpauth://|whsec_|shpat_)~',
        'its values are private keys' => '~^-----BEGIN [A-Z ]*PRIVATE KEY-----|^PuTTY-User-Key-File|^-----BEGIN PGP PRIVATE|^AGE-SECRET-KEY-1~',
        'its values look like keys or tokens' => '',
    ];
    /** Forms are as good as certain, so that few values that fit are enough. */
    private const ENOUGH = 0.05;
    /** Names whose random-looking values are meant to be seen. */
    private const OPEN = '/(?:^|_)(?:uuid|guid|ulid|checksum|check_?sum|etag|md5|sha\d*|crc\d*|commit|revision|fingerprint|hash|'
        .'digest|content_?hash|file_?hash|thumbprint|public_?key|slug|url|uri|link|path|file_?name|filename|external_?id|transaction_?id|'
        .'request_?id|trace_?id|correlation_?id|message_?id|tracking_?(?:no|number|code)|signature|geohash|pruefsumme|sum(?:a|me)_?kontrolna|'
        .'somme_?de_?controle|id)$/';
    private const LEAST_ENTROPY = 3.2;

    /** @return string the reason, '' for none */
    public static function byName(FieldName $name): string
    {
        if (null !== $name->matches(self::NONE)) {
            return '';
        }
        $found = $name->matches(self::WITHIN) ?? ($name->isAbout() ? null : $name->matches(self::WORDS));

        return null === $found || ($name->isAbout() && null === $name->matches(self::WITHIN))
            ? ''
            : \sprintf('it holds secrets: its name speaks of “%s”', $found);
    }

    /**
     * @param list<string> $values
     *
     * @return string the reason, '' for none
     */
    public static function byForm(FieldName $name, array $values): string
    {
        if ([] === $values) {
            return '';
        }
        foreach (self::FORMS as $reason => $form) {
            $fits = '' === $form ? 0 : \count(array_filter($values, static fn (string $value): bool => 1 === preg_match($form, ltrim($value))));
            if ($fits > 0 && $fits >= self::ENOUGH * \count($values)) {
                return $reason;
            }
        }

        return self::isRandom($name, $values) ? 'its values look like keys or tokens' : '';
    }

    public static function isReason(string $reason): bool
    {
        return isset(self::FORMS[$reason]) || str_starts_with($reason, 'it holds secrets');
    }

    /** @param list<string> $values */
    private static function isRandom(FieldName $name, array $values): bool
    {
        if (null !== $name->matches(self::OPEN) || \count($values) < 3) {
            return false;
        }
        $fits = \count(array_filter($values, self::looksRandom(...)));

        return $fits >= 0.8 * \count($values) && \count(array_unique($values)) > 0.9 * \count($values);
    }

    /** Letters and digits without order: as much as each could tell, and no word among them. */
    private static function looksRandom(string $value): bool
    {
        if (1 !== preg_match('~^[A-Za-z0-9+/_.-]{20,512}={0,2}$~', $value) || 1 !== preg_match('/\d/', $value) || 1 !== preg_match('/[A-Za-z]/', $value)) {
            return false;
        }
        // Dates, paths, identifiers of several parts and numbers with a few letters are not.
        if (1 === preg_match(
            '~^[0-9a-f]{8}-[0-9a-f]{4}-|^\d{4}-\d\d-\d\d|^(?:/|\./|https?)|\.[a-z]{2,4}$|^[A-Z]{2,5}-\d|(?:[A-Za-z]{2,}[._/-]){3}~i',
            $value,
        )) {
            return false;
        }
        $counts = count_chars(strtolower($value), 1);
        $length = \strlen($value);
        $entropy = 0.0;
        foreach ($counts as $count) {
            $entropy -= $count / $length * log($count / $length, 2);
        }
        // Words alternate vowels and consonants; what is drawn by chance changes between letters and digits all the time.
        $changes = preg_match_all('/[A-Za-z](?=\d)|\d(?=[A-Za-z])|[a-z](?=[A-Z])/', $value);
        $hex = 1 === preg_match('/^[0-9a-f]+$/i', $value);

        return $entropy >= ($hex ? 3.0 : self::LEAST_ENTROPY) && $changes >= $length / 8;
    }
}
