<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\DossierCheck;
use Fasti\Finding\Noticed;
use Fasti\Register\Dossier;

/** Rows that share the fields which should tell them apart. */
final class RepeatedRows implements DossierCheck
{
    public function name(): string
    {
        return 'repeated-rows';
    }

    public function severity(): Severity
    {
        return Severity::Notice;
    }

    public function why(): string
    {
        return 'What one row stands for is not what the fields say that tell rows apart, or rows were entered twice.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'table').' hold rows that repeat another';
    }

    public function about(): array
    {
        return ['grainFields'];
    }

    public function of(Dossier $dossier): iterable
    {
        $profile = $dossier->part(Profiled::class)?->profile;
        if (null !== $profile && ($profile->repeated ?? 0) > 0) {
            $rows = Amount::of($profile->repeated ?? 0, 'row').(1 === $profile->repeated ? ' repeats' : ' repeat');
            yield new Noticed(
                $dossier->entry->id,
                null,
                \sprintf('%s another in %s', $rows, '' === $dossier->entry->grainFields ? 'every field' : implode(', ', $profile->grain)),
                '',
                'grainFields',
            );
        }
    }
}
