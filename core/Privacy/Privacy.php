<?php

declare(strict_types=1);

namespace Fasti\Core\Privacy;

/**
 * Whether a field holds personal data or secrets, by its name, by what its values look like and by what a steward says. The
 * one place that decides it: no value of such a field is ever kept, shown or logged.
 *
 * A steward's word decides about personal data. Secrets (password hashes, tokens, keys) stay closed whatever is said.
 */
final class Privacy
{
    public const STEWARD_SAYS = 'a steward says so';
    /** What is left of a field's figures when its values may not be kept. */
    public const WITHOUT_VALUES = ['least' => null, 'greatest' => null, 'frequent' => [], 'frequentOf' => 0, 'histogram' => [], 'beyond' => 0];

    private const SECRET_NAMES = '/(?:^|_)(?:pass_?w(?:or)?d\w*|passwd|pwd|pass_?phrase|pass_?hash|pw_?hash|password_?(?:hash|digest|salt)|secret\w*|(?:api|private|access|auth|signing|encryption|session|ssh|license|client)_?(?:key|secret|token)s?|token(?!_(?:count|type|kind|length|limit|name|usage))|(?:refresh|access|bearer|id|csrf|reset|remember|auth|api|session|otp|mfa)_?token\w*|session_?(?:id|hash)|salt|otp_?(?:seed|secret)|totp\w*|recovery_?codes?|pin_?(?:code|hash)|credentials?|cvv2?|cvc2?)(?:$|_)/i';
    /** Reason → form. Each is told from anything else by its first signs. */
    private const SECRET_FORMS = [
        'its values are password hashes' => '~^(?:\$(?:2[abxy]?|5|6|1|y|gy|7|md5|sha1|apr1|P|H)\$[./A-Za-z0-9$=,+-]{8,}|\$argon2(?:id|i|d)\$v=|\{(?:SSHA|SHA|SMD5|MD5|CRYPT|PBKDF2|BCRYPT|ARGON2)[^}]*\}|pbkdf2_sha\d+\$|scrypt[:$]|SCRAM-SHA-(?:1|256)\$|\*[0-9A-F]{40}$)~',
        'its values are tokens' => '~^(?:eyJ[A-Za-z0-9_-]{8,}\.[A-Za-z0-9_-]{4,}\.|gh[pousr]_[A-Za-z0-9]{20,}|xox[abprs]-|sk_(?:live|test)_|AKIA[0-9A-Z]{16}$|AIza[0-9A-Za-z_-]{30,}|glpat-|Bearer\s)~',
        'its values are private keys' => '~^-----BEGIN [A-Z ]*PRIVATE KEY-----|^PuTTY-User-Key-File~',
    ];
    /** Forms are as good as certain, so that few values that fit are enough. */
    private const ENOUGH_SECRETS = 0.05;

    private const NAMES = '/(?:^|_)(?:surname|(?:first|last|given|family|middle|maiden|full|birth)_?name|forename|e_?mail(?:_?address)?|mail|phone(?:_?(?:no|nr|number))?|telephone|tel|mobile|cell_?phone|fax|street|address(?:_?(?:line)?_?\d?)?|home_?address|postcode|post_?code|zip(?:_?code)?|birth_?(?:date|day)|date_?of_?birth|dob|born(?:_?on)?|gender|sex|passport(?:_?no)?|iban|bank_?account|ssn|national_?id|insurance_?no|salary|wage|ip_?address|emergency_?contact|next_?of_?kin|signature)(?:$|_)/i';
    private const PEOPLE = '/(?:^|_)(?:persons?|people|members?|volunteers?|(?:land)?owners?|customers?|clients?|employees?|staff|contacts?|users?|patients?|donors?|observers?|contractors?|tenants?|students?)$/i';
    private const OF_PEOPLE = '/^(?:name|names|nick_?name|display_?name|title|initials)$|_name$/i';
    private const CONTACT = '/(?:^|_)(?:contact|observer|observed_by|recorder|landlord|tenant|owner)(?:_name)?$/i';

    /**
     * From the data.
     *
     * @param string       $likely   what the field is likely to be; see Profile\Likely
     * @param list<string> $values   some of the field's values
     * @param string       $decision yes or no, as a steward has said; '' to work it out
     *
     * @return string the reason, '' where values may be kept
     */
    public static function reason(string $table, string $field, string $likely, array $values, string $decision = ''): string
    {
        $name = self::folded($field);

        return self::secretByName($name) ?: self::secretByForm($values) ?: match ($decision) {
            'no' => '',
            'yes' => self::STEWARD_SAYS,
            default => self::personal($table, $name, $likely, $values),
        };
    }

    /**
     * Without looking at the data again.
     *
     * @param ?string $seen the reason that a look at the data gave, '' for none; null where nobody has looked
     */
    public static function known(string $table, string $field, ?string $seen, string $decision): string
    {
        $name = self::folded($field);

        return self::secretByName($name) ?: (null !== $seen && isset(self::SECRET_FORMS[$seen]) ? $seen : match ($decision) {
            'no' => '',
            'yes' => self::STEWARD_SAYS,
            default => $seen ?? self::personal($table, $name, '', []),
        });
    }

    /** Whether a reason is one of secrets, about which nobody decides. */
    public static function isSecret(string $reason): bool
    {
        return isset(self::SECRET_FORMS[$reason]) || str_starts_with($reason, 'it holds secrets');
    }

    private static function secretByName(string $name): string
    {
        return 1 === preg_match(self::SECRET_NAMES, $name, $m) ? \sprintf('it holds secrets: its name speaks of “%s”', trim(str_replace('_', ' ', $m[0]))) : '';
    }

    /** @param list<string> $values */
    private static function secretByForm(array $values): string
    {
        foreach ([] === $values ? [] : self::SECRET_FORMS as $reason => $form) {
            $fits = \count(array_filter($values, static fn (string $value): bool => 1 === preg_match($form, ltrim($value))));
            if ($fits > 0 && $fits >= self::ENOUGH_SECRETS * \count($values)) {
                return $reason;
            }
        }

        return '';
    }

    /** @param list<string> $values */
    private static function personal(string $table, string $name, string $likely, array $values): string
    {
        if (1 === preg_match(self::NAMES, $name, $m)) {
            return \sprintf('its name speaks of “%s”', trim(str_replace('_', ' ', $m[0])));
        }
        $text = [] !== array_filter($values, static fn (string $value): bool => 1 === preg_match('/\p{L}{2}/u', $value));

        return match (true) {
            'e-mail address' === $likely => 'its values are e-mail addresses',
            'telephone number' === $likely => 'its values are telephone numbers',
            $text && 1 === preg_match(self::PEOPLE, $table) && 1 === preg_match(self::OF_PEOPLE, $name) => 'it names people, by the name of its table',
            $text && 1 === preg_match(self::CONTACT, $name) && self::looksLikeNames($values) => 'it seems to name people',
            default => '',
        };
    }

    /** Of a path within documents, its last part; in small letters, with lines between its words. */
    private static function folded(string $field): string
    {
        $last = (string) preg_replace('/^.*[.\]}]/', '', $field);

        return strtolower((string) preg_replace(['/(?<=[a-z])(?=[A-Z])/', '/[^A-Za-z0-9]+/'], '_', $last));
    }

    /** @param list<string> $values two or three words, each with a capital */
    private static function looksLikeNames(array $values): bool
    {
        $fits = \count(array_filter(
            $values,
            static fn (string $value): bool => 1 === preg_match("/^(?:\p{Lu}[\p{L}'’.-]+)(?: \p{Lu}[\p{L}'’.-]*){1,3}$/u", $value),
        ));

        return $fits >= 0.6 * max(1, \count($values));
    }
}
