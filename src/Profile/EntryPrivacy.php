<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Privacy\Privacy;
use Fasti\Register\Withholding;

/** Which fields of an entry are personal or secret, and why. */
final readonly class EntryPrivacy implements Withholding
{
    /** @param array<string, string> $reasons by field, of those that are */
    public function __construct(public array $reasons)
    {
    }

    public function reason(string $field): string
    {
        return $this->reasons[$field] ?? '';
    }

    public function isSecret(string $field): bool
    {
        return Privacy::isSecret($this->reason($field));
    }

    /** @return list<string> */
    public function withheld(): array
    {
        return array_map(strval(...), array_keys($this->reasons));
    }
}
