<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\OpenForm;

/** A kept trial as files have it. */
final class TrialFile
{
    /** @return array<string, mixed> */
    public static function of(KeptTrial $trial, bool $rows = false): array
    {
        $file = [
            'name' => $trial->name,
            'neededBy' => $trial->neededBy,
            'expected' => $trial->expected,
            'question' => OpenForm::of($trial->trial()),
            'sql' => $trial->plan,
            'state' => $trial->state,
        ];
        if ($rows && $trial->rowsPublished && null !== $trial->answer) {
            $file['answer'] = [
                'columns' => $trial->answer['columns'] ?? [],
                'rows' => $trial->answer['rows'] ?? [],
                'asOf' => $trial->askedAt?->format('Y-m-d H:i:s'),
            ];
        }

        return array_filter($file, static fn (mixed $value): bool => '' !== $value);
    }
}
