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
        $name = FieldName::of($field);

        return Secrets::byName($name) ?: Secrets::byForm($name, $values) ?: match ($decision) {
            'no' => '',
            'yes' => self::STEWARD_SAYS,
            default => People::reason($table, $name, $likely, $values),
        };
    }

    /**
     * Without looking at the data again.
     *
     * @param ?string $seen the reason that a look at the data gave, '' for none; null where nobody has looked
     */
    public static function known(string $table, string $field, ?string $seen, string $decision): string
    {
        $name = FieldName::of($field);

        $secret = null !== $seen && Secrets::isReason($seen) ? $seen : '';

        return Secrets::byName($name) ?: $secret ?: match ($decision) {
            'no' => '',
            'yes' => self::STEWARD_SAYS,
            default => $seen ?? People::reason($table, $name, '', []),
        };
    }

    /** Whether a reason is one of secrets, about which nobody decides. */
    public static function isSecret(string $reason): bool
    {
        return Secrets::isReason($reason);
    }
}
