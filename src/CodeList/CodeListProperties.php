<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Fasti\Core\Value\Allowed;
use Fasti\Core\Value\AllowedError;
use Fasti\Text\BadText;
use Fasti\Text\Day;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/** What people write of code lists and their codes, and which values fields may hold. */
final readonly class CodeListProperties implements Properties
{
    public function __construct(private CodeLists $lists)
    {
    }

    public function all(): iterable
    {
        $day = static function (string $value): void {
            Day::check($value);
        };
        yield new Property('code', 'label', most: 400, column: 'label', blank: 'label');
        yield new Property('code', 'meaning', 'meaning of the code', column: 'meaning', editor: Editor::Long, blank: 'What does it mean?');
        yield new Property('code', 'position', 'place in the order', 6, 'position', blank: '1', check: static function (string $value): void {
            if (1 !== preg_match('/^\d{1,6}$/D', $value)) {
                throw new BadText('The place in the order is a number: 1 comes first.');
            }
        });
        yield new Property('code', 'replacedBy', 'replaced by', 190, 'replaced_by', blank: 'replaced by', check: $this->isBeside(...));
        yield new Property('code', 'validFrom', 'valid from', 10, 'valid_from', blank: 'from', check: $day);
        yield new Property('code', 'validTo', 'valid to', 10, 'valid_to', blank: 'to', check: $day);
        yield new Property(
            'field', 'allowed', 'allowed values', blank: '0 to 100, one of G, S, B, code list NAME, 6 characters', shownAmongFacts: true,
            check: $this->isUnderstood(...),
        );
        yield new Property(
            'code-list', 'meaning', 'what the list is for', column: 'meaning', editor: Editor::Long,
            blank: 'What are these codes for, and who decides them?',
        );
        yield new Property('code-list', 'name', 'name of the code list', 120, 'name', check: $this->lists->checkName(...));
    }

    private function isBeside(string $value, int $id): void
    {
        if ('' !== $value && !$this->lists->hasBeside($id, $value)) {
            throw new BadText(\sprintf('This list has no other code “%s”. Add it first, or write a code that is there.', mb_strimwidth($value, 0, 60, '…')));
        }
    }

    /** See Allowed for how it is written. It is checked against the data with each profile. */
    private function isUnderstood(string $value): void
    {
        try {
            if ('' !== $value) {
                Allowed::parse($value, $this->lists->codesOf(...));
            }
        } catch (AllowedError $e) {
            throw new BadText(0 === $e->at ? $e->getMessage() : \sprintf('At character %d: %s', $e->at + 1, $e->getMessage()));
        }
    }
}
