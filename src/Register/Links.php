<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Where the partials of an entry lead: to pages of the application, or to those of an edition. */
interface Links
{
    /** @return string|null the address of an entry; null where it is not to be had here */
    public function entry(int $id): ?string;

    /** The anchor of a field on the page of its entry. */
    public function anchor(FieldView $field): string;

    /** @return string|null the address of a field on the page of its entry; null where it is not to be had here */
    public function field(int $entry, int $field, string $name): ?string;

    /** @return string|null the address of a term of the glossary; null where it is not to be had here */
    public function term(int $id): ?string;

    /**
     * @param string $route of the page in the application
     *
     * @return string|null the address of a thing that somebody keeps; null where it is not to be had here
     */
    public function kept(string $kind, int $id, string $route): ?string;

    /** Whether texts may be written here, and forms sent. */
    public function live(): bool;
}
