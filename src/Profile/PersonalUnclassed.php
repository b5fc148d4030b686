<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\DossierCheck;
use Fasti\Finding\Noticed;
use Fasti\Register\Dossier;

/** Personal data of which nobody has said how sensitive it is. */
final readonly class PersonalUnclassed implements DossierCheck
{
    public function name(): string
    {
        return 'personal-unclassed';
    }

    public function severity(): Severity
    {
        return Severity::Fault;
    }

    public function why(): string
    {
        return 'Who may see it depends on that, and so does how long it may be kept.';
    }

    public function mend(): string
    {
        return 'Say how sensitive it is, or that it is not personal after all.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'personal field').' have no sensitivity';
    }

    public function about(): array
    {
        return ['personal', 'sensitivity'];
    }

    public function of(Dossier $dossier): iterable
    {
        $privacy = $dossier->part(EntryPrivacy::class);
        if (null === $privacy) {
            return;
        }
        foreach ($dossier->entry->presentFields() as $field) {
            $said = $dossier->saidOfFields[$field->id]['sensitivity'] ?? '';
            if ('' === $said && '' !== $privacy->reason($field->name) && !$privacy->isSecret($field->name)) {
                yield new Noticed($dossier->entry->id, $field->id, \sprintf('%s is personal, and nobody has said how sensitive', $field->name), '',
                    'sensitivity');
            }
        }
    }
}
