<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\OpenForm;

/** A model as JSON, as docs/model.schema.json describes it. */
final class ModelFile
{
    public const FORMAT = 'fasti-model-1';

    /** @param list<array<string, mixed>> $trials */
    public static function json(Model $model, string $source = '', array $trials = []): string
    {
        return json_encode(
            array_filter(
                ['format' => self::FORMAT, 'source' => $source],
                static fn (string $value): bool => '' !== $value,
            ) + OpenForm::of($model) + ([] === $trials ? [] : ['trials' => $trials]),
            \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
        )."\n";
    }

    /**
     * Reads a model, and says what of it was not understood rather than leave it out.
     *
     * @throws ModelError with the places of all that is not understood
     */
    public static function read(string $json): Model
    {
        try {
            $data = json_decode($json, true, 64, \JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw new ModelError(\sprintf('The file is no JSON: %s.', $e->getMessage()), 0, $e);
        }
        if (!\is_array($data) || array_is_list($data)) {
            throw new ModelError('The file holds no model: it must be an object with a name, roles, joins and measures.');
        }
        if (\array_key_exists('format', $data) && self::FORMAT !== $data['format']) {
            throw new ModelError(
                \sprintf(
                    'The file says that it is of the format “%s”; what is read is “%s”.',
                    \is_scalar($data['format']) ? (string) $data['format'] : '?',
                    self::FORMAT,
                ),
            );
        }
        unset($data['format'], $data['source'], $data['trials']);
        try {
            $model = OpenForm::read(Model::class, $data);
        } catch (\InvalidArgumentException $e) {
            throw new ModelError($e->getMessage(), 0, $e);
        }
        $lost = self::lost($data, OpenForm::of($model), '');
        if ([] !== $lost) {
            throw new ModelError(
                'Not understood: '.implode('; ', \array_slice($lost, 0, 10)).(\count($lost) > 10 ? ' …' : '')
                    .'. See docs/model.schema.json for what may stand there.',
            );
        }
        if ('' === trim($model->name)) {
            throw new ModelError('The model has no name.');
        }

        return $model;
    }

    /**
     * What stands in the one and not in the other, with where it stands.
     *
     * @param array<mixed> $given
     * @param array<mixed> $read
     *
     * @return list<string>
     */
    private static function lost(array $given, array $read, string $at): array
    {
        $lost = [];
        if (array_is_list($given) && array_is_list($read) && \count($given) !== \count($read)) {
            foreach ($given as $i => $one) {
                if (!\is_array($one) && !\is_string($one)) {
                    $lost[] = "$at/$i";
                }
            }

            return [] === $lost ? [\sprintf('one of the %d in %s', \count($given), '' === $at ? '/' : $at)] : $lost;
        }
        foreach ($given as $key => $value) {
            $there = "$at/$key";
            $kept = $read[$key] ?? null;
            if (\is_array($value) && \is_array($kept)) {
                $lost = [...$lost, ...self::lost($value, $kept, $there)];
            } elseif (null === $kept && !\in_array($value, [null, '', [], false, 'all'], true) || null !== $kept && $kept !== $value) {
                $lost[] = \is_scalar($value) ? \sprintf('%s “%s”', $there, mb_substr((string) $value, 0, 40)) : $there;
            }
        }

        return $lost;
    }
}
