<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Draft\ShortForms;

/** The short forms of the workspace, the other way round: from what is meant to how it is abbreviated. */
final readonly class Abbreviations
{
    public function __construct(private ShortForms $forms)
    {
    }

    /** @return array<string, string> word → short form */
    public function all(): array
    {
        $short = [];
        foreach ($this->forms->known() as $form => $stands) {
            $short[mb_strtolower($stands)] ??= $form;
        }

        return $short;
    }
}
