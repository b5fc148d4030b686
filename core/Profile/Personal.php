<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/** Whether a field is likely to hold personal data, by its name and by what its values look like. */
final class Personal
{
    private const NAMES = '/(?:^|_)(?:surname|(?:first|last|given|family|middle|maiden|full|birth)_?name|forename|e_?mail(?:_?address)?|mail|phone(?:_?(?:no|nr|number))?|telephone|tel|mobile|cell_?phone|fax|street|address(?:_?(?:line)?_?\d?)?|home_?address|postcode|post_?code|zip(?:_?code)?|birth_?(?:date|day)|date_?of_?birth|dob|born(?:_?on)?|gender|sex|passport(?:_?no)?|iban|bank_?account|ssn|national_?id|insurance_?no|salary|wage|ip_?address|emergency_?contact|next_?of_?kin|signature)(?:$|_)/i';
    private const PEOPLE = '/(?:^|_)(?:persons?|people|members?|volunteers?|(?:land)?owners?|customers?|clients?|employees?|staff|contacts?|users?|patients?|donors?|observers?|contractors?|tenants?|students?)$/i';
    private const OF_PEOPLE = '/^(?:name|names|nick_?name|display_?name|title|initials)$|_name$/i';
    private const CONTACT = '/(?:^|_)(?:contact|observer|observed_by|recorder|landlord|tenant|owner)(?:_name)?$/i';

    /**
     * @param list<string> $values some of the field's values
     *
     * @return string the reason, '' where nothing speaks for it
     */
    public static function reason(string $table, string $field, string $likely, array $values): string
    {
        $name = strtolower((string) preg_replace(['/(?<=[a-z])(?=[A-Z])/', '/[^A-Za-z0-9]+/'], '_', (string) preg_replace('/^.*[.\]}]/', '', $field)));
        if (1 === preg_match(self::NAMES, $name, $m)) {
            return \sprintf('its name speaks of “%s”', trim(str_replace('_', ' ', $m[0])));
        }
        if ('e-mail address' === $likely) {
            return 'its values are e-mail addresses';
        }
        if ('telephone number' === $likely) {
            return 'its values are telephone numbers';
        }
        $text = [] !== array_filter($values, static fn (string $value): bool => 1 === preg_match('/\p{L}{2}/u', $value));
        if ($text && 1 === preg_match(self::PEOPLE, $table) && 1 === preg_match(self::OF_PEOPLE, $name)) {
            return 'it names people, by the name of its table';
        }
        if ($text && 1 === preg_match(self::CONTACT, $name) && self::looksLikeNames($values)) {
            return 'it seems to name people';
        }

        return '';
    }

    /** @param list<string> $values two or three words, each with a capital */
    private static function looksLikeNames(array $values): bool
    {
        $fits = \count(array_filter($values, static fn (string $value): bool => 1 === preg_match("/^(?:\p{Lu}[\p{L}'’.-]+)(?: \p{Lu}[\p{L}'’.-]*){1,3}$/u", $value)));

        return $fits >= 0.6 * max(1, \count($values));
    }
}
