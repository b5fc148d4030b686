<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Design\Attribute;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\DesignJoin;
use Fasti\Core\Design\Drawing;
use Fasti\Core\Design\Identifier;
use Fasti\Core\Design\Ledger;
use Fasti\Core\Design\Names;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\Rules;
use Fasti\Core\Design\Thing;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\SvgDrawing;

/** A design as it is read, by those who do not write: its drawing, its sentences, and what is known of each thing. */
final readonly class Reading
{
    /** @return array<string, mixed> */
    public static function of(KeptDesign $kept): array
    {
        $design = $kept->design();
        [$tablets, $lines] = Drawing::conceptual($design);

        return [
            'kept' => $kept,
            'design' => $design,
            'drawing' => [] === $tablets ? '' : SvgDrawing::bare(
                Sight::laid($tablets, $lines, Detail::Names, $kept->places['conceptual'] ?? []),
                $design->name,
            ),
            'sentences' => array_map(static fn (DesignJoin $join): array => [
                'words' => OutlineWriter::join($join)[0], 'attributes' => array_map(self::attribute(...), $join->attributes),
            ], $design->joins),
            'things' => array_map(static fn (Thing $thing): array => self::thing($thing, $design), $design->things),
            'rules' => self::rules($design),
        ];
    }

    public static function anchor(string $name): string
    {
        return 't-'.trim(preg_replace('/[^\p{L}\p{N}]+/u', '-', mb_strtolower($name)) ?? '', '-');
    }

    /** @return array<string, mixed> */
    private static function thing(Thing $thing, Design $design): array
    {
        $key = Names::key($thing->name);
        $joins = array_filter($design->joins, static fn (DesignJoin $join): bool => \in_array($key, [Names::key($join->from), Names::key($join->to)], true));

        return [
            'name' => $thing->name, 'anchor' => self::anchor($thing->name), 'grain' => $thing->grain, 'meaning' => $thing->meaning, 'from' => $thing->from,
            'kindOf' => $thing->kindOf, 'attributes' => array_map(self::attribute(...), $thing->attributes),
            'told' => array_map(static fn (Identifier $each): string => OutlineWriter::identifier($each), $thing->keys),
            'sentences' => array_map(static fn (DesignJoin $join): string => OutlineWriter::join($join)[0], array_values($joins)),
        ];
    }

    /** @return array<string, string> */
    private static function attribute(Attribute $attribute): array
    {
        return [
            'name' => $attribute->name,
            'said' => Ledger::said($attribute->with(unit: '', personal: false)),
            'unit' => $attribute->unit,
            'meaning' => $attribute->meaning,
            'personal' => $attribute->personal ? 'personal' : '',
        ];
    }

    /** @return list<string> those that were decided otherwise than usual */
    private static function rules(Design $design): array
    {
        $words = [];
        foreach ($design->rules->set as $rule => $setting) {
            $words[] = Rules::sentence($rule, $setting);
        }

        return $words;
    }
}
