<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\Routing\Generator\UrlGeneratorInterface;

/** Links of the application itself. */
final readonly class LiveLinks implements Links
{
    public function __construct(private UrlGeneratorInterface $urls)
    {
    }

    public function entry(int $id): string
    {
        return $this->urls->generate('entry', ['id' => $id]);
    }

    public function anchor(FieldView $field): string
    {
        return 'field-'.$field->id;
    }

    public function field(int $entry, int $field, string $name): string
    {
        return $this->entry($entry).'#field-'.$field;
    }

    public function term(int $id): string
    {
        return $this->urls->generate('term', ['id' => $id]);
    }

    public function kept(string $kind, int $id, string $route): string
    {
        return $this->urls->generate($route, ['id' => $id]);
    }

    public function live(): bool
    {
        return true;
    }
}
