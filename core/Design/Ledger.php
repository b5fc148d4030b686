<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** An outline as rows: things, and below each what is known of it. */
final class Ledger
{
    /**
     * @return list<array{name: string, grain: string, line: int, told: list<string>, attributes: list<array{name: string, said: string, meaning: string,
     *     line: int}>}>
     */
    public static function of(Outline $outline): array
    {
        $things = [];
        foreach ($outline->design->things as $thing) {
            $attributes = [];
            foreach ($thing->attributes as $attribute) {
                $attributes[] = ['name' => $attribute->name, 'said' => self::said($attribute), 'meaning' => $attribute->meaning, 'line' => $attribute->line];
            }
            $things[] = [
                'name' => $thing->name, 'grain' => $thing->grain, 'line' => $thing->line,
                'told' => array_map(static fn (Identifier $key): string => substr(OutlineWriter::identifier($key), \strlen('told apart by ')), $thing->keys),
                'attributes' => $attributes,
            ];
        }

        return $things;
    }

    /** What an outline says of an attribute besides its name and its meaning. */
    public static function said(Attribute $attribute): string
    {
        $line = OutlineWriter::attribute($attribute->with(meaning: ''));

        return ltrim(substr($line, \strlen(OutlineWriter::name($attribute->name))), ',; ');
    }
}
