<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Naming;
use Fasti\Register\Fields;

/** Fields of one name of which quite different things are said. */
final readonly class SameNameOtherMeaning implements RegisterCheck
{
    private const GENERIC = ['id', 'name', 'code', 'type', 'kind', 'status', 'state', 'value', 'date', 'note', 'notes', 'remark', 'remarks', 'comment',
        'description',
        'title', 'label', 'key', 'number', 'position', 'order', 'flag', 'active', 'version', 'amount', 'count', 'text', 'unit', 'parent', 'created',
        'updated', 'changed'];
    private const LITTLE = ['the', 'a', 'an', 'of', 'its', 'this', 'is', 'are', 'was', 'in', 'for', 'to', 'it', 'that', 'and', 'with', 'which', 'on', 'at',
        'by', 'or'];

    public function __construct(private Fields $fields)
    {
    }

    public function name(): string
    {
        return 'same-name-other-meaning';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Whoever knows the one takes the other for the same.';
    }

    public function mend(): string
    {
        return 'Say in the meaning how they differ, or use one text for both.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return \sprintf('“%s” means different things in %d places', $group, $count);
    }

    public function about(): array
    {
        return [];
    }

    public function of(): iterable
    {
        $by = [];
        foreach ($this->fields->sayings() as $field) {
            $words = Naming::words($field->name);
            if ('' !== $field->meaning && [] !== array_diff($words, self::GENERIC)) {
                $by[$field->identifier][] = [$field->id, $field->entry, $field->name, array_diff(Naming::words($field->meaning), self::LITTLE,
                    $words)];
            }
        }
        foreach ($by as $of) {
            foreach (\count($of) < 2 ? [] : $of as [$id, $entry, $name, $words]) {
                foreach ($of as $other) {
                    if ($other[0] !== $id && [] === array_intersect($words, $other[3]) && [] !== $words && [] !== $other[3]) {
                        yield new Noticed($entry, $id, 'A field of the same name is described otherwise in another entry', mb_strtolower($name), 'meaning');
                        break;
                    }
                }
            }
        }
    }
}
