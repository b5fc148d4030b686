<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** Fields that most schemas have and that mean the same in all of them, by the end of their name. */
final class WellKnown implements Rule
{
    /** Words at the end of a name → family that it takes ('' for any), meaning; {row} is what a row is called, {what} the words before, {of} either. */
    private const KNOWN = [
        ['first name', 'text', 'The first name of {of}: the given one.', 0.88],
        ['last name', 'text', 'The last name of {of}: that of the family.', 0.88],
        ['surname', 'text', 'The last name of {of}: that of the family.', 0.88],
        ['full name', 'text', 'The whole name of {of}, first and last.', 0.85],
        ['short name', 'text', 'What {of} is called for short: a name for lists.', 0.8],
        ['display name', 'text', 'The name under which {of} is shown.', 0.8],
        ['login name', 'text', 'The name with which {row} signs in.', 0.8],
        ['user name', 'text', 'The name with which {of} signs in.', 0.78],
        ['name', 'text', 'What {of} is called{kind}.', 0.84],
        ['title', 'text', 'What {of} is called: its title.', 0.76],
        ['label', 'text', 'What {of} is called, in words for people.', 0.74],
        ['email address', 'text', 'The e-mail address of {of}.', 0.88],
        ['email', 'text', 'The e-mail address of {of}.', 0.88],
        ['e mail', 'text', 'The e-mail address of {of}.', 0.88],
        ['mail', 'text', 'The e-mail address of {of}.', 0.7],
        ['fax number', 'text', 'The fax number of {of}.', 0.86],
        ['fax', 'text', 'The fax number of {of}.', 0.86],
        ['mobile number', '', 'The number of the mobile telephone of {of}.', 0.86],
        ['mobile', 'text', 'The number of the mobile telephone of {of}.', 0.84],
        ['phone number', '', 'The telephone number of {of}.', 0.88],
        ['telephone number', '', 'The telephone number of {of}, to reach it by.', 0.84],
        ['phone', 'text', 'The telephone number of {of}.', 0.88],
        ['telephone', 'text', 'The telephone number of {of}.', 0.86],
        ['home address', 'text', 'The address where {row} lives.', 0.86],
        ['postal address', 'text', 'The address to which post for {row} goes.', 0.86],
        ['address', 'text', 'The address of {of}{post}.', 0.8],
        ['postcode', 'text', 'The postcode in the address of {of}.', 0.84],
        ['street', 'text', 'The street in the address of {of}.', 0.84],
        ['city', 'text', 'The town or city in the address of {of}.', 0.8],
        ['country code', 'text', 'The country of {of}, as a code of {letters} letters (ISO 3166).', 0.84],
        ['country', 'text', 'The country of {of}{iso}.', 0.8],
        ['currency code', 'text', 'The currency of the amounts, as a code of three letters (ISO 4217).', 0.86],
        ['currency', 'text', 'The currency of the amounts of {of}.', 0.8],
        ['language code', 'text', 'The language of {of}, as a code of {letters} letters (ISO 639).', 0.85],
        ['language', 'text', 'The language that {of} is in.', 0.74],
        ['web address', 'text', 'The address on the web of {of}.', 0.82],
        ['description', 'text', 'What {of} is, described in words.', 0.8],
        ['comment', 'text', 'What somebody had to remark about {of}.', 0.74],
        ['remark', 'text', 'What somebody had to remark about {of}.', 0.74],
        ['remarks', 'text', 'What somebody had to remark about {of}.', 0.74],
        ['note', 'text', 'What else there is to note about {of}, in words.', 0.76],
        ['notes', 'text', 'What else there is to note about {of}, in words.', 0.76],
        ['reason', 'text', 'Why: the reason given for {what}.', 0.78],
        ['serial number', '', 'The serial number of {of}, as its maker gave it.', 0.8],
        ['bottle number', '', 'The number on the bottle of {row}.', 0.78],
        ['reference', 'text', 'The reference that identifies {of} for people.', 0.74],
        ['detection limit', 'number', 'The least that {row} can detect.', 0.8],
        ['limit', 'number', 'The most that {row} may reach: the {what} limit.', 0.5],
        ['sort order', 'number', 'The place of {row} in lists.', 0.82],
        ['position', 'number', 'The place of {row} among others of its list.', 0.66],
        ['rank', 'number', 'The place of {row} among others, the first being 1.', 0.64],
        ['age limit', 'number', 'The age that {row} is limited to, in years.', 0.66],
        ['price', 'number', 'What {of} costs.', 0.7],
        ['cost', 'number', 'What was paid for {of}: its cost.', 0.68],
        ['cost net', '', 'What {of} costs, net of tax: its price.', 0.7],
        ['net cost', '', 'What {of} costs, net of tax: its price.', 0.7],
        ['price paid', 'number', 'The price that was paid for {of}.', 0.8],
        ['total amount', 'number', 'The amount of money that {row} comes to in total.', 0.76],
        ['amount', 'number', 'The amount of money of {what}, for {row}.', 0.72],
        ['percentage', 'number', 'The share of {what}, in per cent.', 0.7],
        ['password hash', '', 'The password of {of}, hashed so that nobody can read it.', 0.9],
        ['password', '', 'The password of {of}.', 0.8],
        ['gender', '', 'The gender of {of}, as it was given.', 0.7],
        ['maker', 'text', 'Who made {row}.', 0.8],
        ['symbol', 'text', 'The sign with which {of} is written.', 0.8],
        ['quantity', 'number', 'How many or how much of it {row} is about.', 0.62],
        ['image', '', 'A picture of {of}.', 0.6],
        ['checksum', '', 'A sum over the rest of the row, by which damage is noticed.', 0.7],
    ];

    /** What stands before "name" and is no thing that has one. */
    private const SORTS_OF_NAMES = ['common', 'latin', 'scientific', 'local', 'official', 'legal', 'trade', 'brand', 'short', 'long', 'old', 'new', 'former',
        'english', 'german', 'french', 'native', 'internal', 'external', 'alternative', 'original', 'popular', 'vernacular', 'proper', 'technical', 'generic',
        'full', 'maiden', 'nick', 'given', 'middle', 'previous', 'current', 'public', 'printed', 'business', 'plain', 'first', 'last', 'second', 'other'];

    /** @var array<string, list<array{string, string, string, float}>> last word → what is known of names that end in it */
    private static array $byEnd = [];

    public function name(): string
    {
        return 'well-known';
    }

    public function of(Field $field): iterable
    {
        if (null !== $field->lead() || $field->isFlag() || null !== $field->name->unit) {
            return;
        }
        $noun = $field->noun();
        $words = array_map(mb_strtolower(...), $field->name->without($noun));
        $phrase = ' '.implode(' ', $words);
        foreach (self::endingIn($words[\count($words) - 1] ?? '') as [$end, $family, $text, $sure]) {
            if (!str_ends_with($phrase, ' '.$end) || !self::fits($field, $family)) {
                continue;
            }
            $before = \array_slice($words, 0, \count($words) - \count(explode(' ', $end)));
            // A position at which something starts is none among others; a gene has a symbol that is no sign for it.
            $other = [] !== $before && \in_array($end, ['position', 'rank', 'sort order'], true)
                || 'symbol' === $end && 1 !== preg_match('/(?:unit|currency|parameter|element|quantity|measure)$/', $noun);
            if ($other) {
                return;
            }
            $said = self::said($field, $text, $noun, $before);
            $empty = $field->isAlwaysEmpty() ? ' It is always empty.' : '';
            yield new Draft('meaning', English::sentence($said).$empty, [] === $before ? $sure : $sure - 0.04, ['what such fields hold everywhere']);

            return;
        }
    }

    /** @return list<array{string, string, string, float}> */
    private static function endingIn(string $word): array
    {
        foreach ([] === self::$byEnd ? self::KNOWN : [] as $known) {
            self::$byEnd[substr((string) strrchr(' '.$known[0], ' '), 1)][] = $known;
        }

        return self::$byEnd[$word] ?? [];
    }

    /** @param list<string> $before */
    private static function said(Field $field, string $text, string $noun, array $before): string
    {
        $what = implode(' ', $before);
        $kind = '';
        if (str_contains($text, '{kind}') && [] !== $before) {
            // "common name": a kind of name; "borrower name": the name of somebody.
            if (\in_array($before[\count($before) - 1], self::SORTS_OF_NAMES, true)) {
                $kind = ': its '.$what.' name';
                $of = 'the '.$noun;
            } else {
                $of = 'the '.$what;
            }
        } else {
            $of = match (true) {
                [] === $before => 'the '.$noun,
                English::isPerson($what) || 1 === preg_match('/(?:er|or|ee|ist)$/',
                    $what) => 'the '.$what,
                default => 'the '.$noun.' ('.$what.')',
            };
        }
        if (str_contains($text, 'amount of money of {what}') && [] !== $before && English::isParticiple($before[\count($before) - 1])) {
            $text = 'The amount of money that was {what}, for {row}.';
        }
        if (str_contains($text, '{what}') && '' === $what) {
            $what = 'the '.$noun;
        }
        $letters = match ($field->type->length) {
            2 => 'two',
            3 => 'three',
            default => '',
        };
        if (str_contains($text, '{letters}') && '' === $letters) {
            $text = str_replace('as a code of {letters} letters ', 'as a code ', $text);
        }
        $iso = 'country code (ISO 3166)' === $field->profile?->likely
            ? ', as a code of '.('' === $letters ? 'letters' : $letters.' letters').' (ISO 3166)' : '';

        $said = ['{row}' => 'the '.$noun, '{of}' => $of, '{what}' => $what, '{letters}' => $letters, '{kind}' => $kind, '{iso}' => $iso];

        return strtr($text, $said + ['{post}' => self::hasPost($field) ? ', for post' : '']);
    }

    /** An address may be one of mail, of a machine, of a page: where there is more of it, it is one for post. */
    private static function hasPost(Field $field): bool
    {
        return [] !== preg_grep('/city|town|zip|post|street|country/i', array_map(static fn (Column $one): string => $one->name, $field->table->columns));
    }

    private static function fits(Field $field, string $family): bool
    {
        return match ($family) {
            'text' => $field->type->isPlain(TypeFamily::Text, TypeFamily::Other),
            'number' => $field->type->family->isNumeric(),
            default => true,
        };
    }
}
