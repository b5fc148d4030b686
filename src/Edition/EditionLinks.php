<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Edition\Slug;
use Fasti\Register\EntryView;
use Fasti\Register\FieldView;
use Fasti\Register\Links;

/** Links from page to page of an edition. */
final readonly class EditionLinks implements Links
{
    /**
     * @param array<int, string> $addresses of entries, below the root
     * @param string             $root      the way from the page to the root: `../../`
     */
    public function __construct(private array $addresses, private string $root)
    {
    }

    public static function address(EntryView $entry): string
    {
        return Slug::of($entry->sourceName).'/'.Slug::of($entry->schema).'/'.Slug::of($entry->name).'.html';
    }

    public function entry(int $id): ?string
    {
        return isset($this->addresses[$id]) ? $this->root.$this->addresses[$id] : null;
    }

    public function anchor(FieldView $field): string
    {
        return Slug::of($field->name);
    }

    public function field(int $entry, int $field, string $name): ?string
    {
        $page = $this->entry($entry);

        return null === $page ? null : $page.'#'.Slug::of($name);
    }

    public function term(int $id): string
    {
        return $this->root.GlossaryPage::PAGE.'#term-'.$id;
    }

    public function kept(string $kind, int $id, string $route): ?string
    {
        $path = match ($kind) {
            'diagram' => DiagramPages::path($id),
            'model' => ModelPages::path($id),
            'design' => DesignPages::path($id),
            default => null,
        };

        return null === $path ? null : $this->root.$path;
    }

    public function live(): bool
    {
        return false;
    }
}
