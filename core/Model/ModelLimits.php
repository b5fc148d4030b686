<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** How large a model may be: what is larger is no model that anybody reads, and would hold up every page that shows it. */
final class ModelLimits
{
    public const NAME = 160;
    public const TEXT = 4000;
    private const MOST = ['measures' => 1000, 'roles' => 500, 'joins' => 2000, 'hierarchies' => 500, 'sharings' => 500];
    private const MOST_WORDS = 50;
    private const MOST_ATTRIBUTES = 20000;

    /** @throws ModelError which says what is too large, how large it is, and how large it may be */
    public static function check(Model $model): void
    {
        foreach (self::MOST as $of => $most) {
            if (\count($model->$of) > $most) {
                throw new ModelError(\sprintf(
                    'A model has %s %s at the most, and this one would have %s. Make two of it.',
                    number_format($most),
                    $of,
                    number_format(\count($model->$of)),
                ));
            }
        }
        $attributes = 0;
        foreach ($model->roles as $role) {
            $attributes += \count($role->attributes);
            self::long('The name of a role', $role->name, self::NAME);
            foreach ($role->attributes as $attribute) {
                self::attribute($role->name, $attribute);
            }
        }
        if ($attributes > self::MOST_ATTRIBUTES) {
            throw new ModelError(\sprintf(
                'A model has %s attributes at the most, and this one would have %s.',
                number_format(self::MOST_ATTRIBUTES),
                number_format($attributes),
            ));
        }
        foreach ($model->measures as $measure) {
            self::long('The name of a measure', $measure->name, self::NAME);
            $of = '“'.mb_strimwidth($measure->name, 0, 40, '…').'”';
            foreach (['expression', 'filter', 'meaning', 'reason'] as $part) {
                self::long("The $part of $of", $measure->$part, self::TEXT);
            }
            self::long("The format of $of", $measure->format, self::NAME);
            self::found($of, $measure);
        }
        foreach ($model->sharings as $sharing) {
            self::long('The weight of a link', $sharing->weight, self::TEXT);
        }
        foreach ($model->hierarchies as $hierarchy) {
            self::long('The name of a hierarchy', $hierarchy->name, self::NAME);
        }
    }

    private static function attribute(string $role, Attribute $attribute): void
    {
        self::long("The name of an attribute of $role", $attribute->name, self::NAME);
        $of = '“'.mb_strimwidth($attribute->name, 0, 40, '…').'”';
        self::long("The expression of $of", $attribute->expression, self::TEXT);
        self::long("The meaning of $of", $attribute->meaning, self::TEXT);
        self::long("What $of is sorted by", $attribute->sorted, self::TEXT);
        self::found($of, $attribute);
    }

    private static function found(string $of, Measure|Attribute $one): void
    {
        self::long("The folder of $of", $one->folder, self::NAME);
        self::long("Who answers for $of", $one->owner, self::NAME);
        if (\count($one->also) > self::MOST_WORDS) {
            throw new ModelError(\sprintf('%s has %s other words; %d are the most.', $of, number_format(\count($one->also)), self::MOST_WORDS));
        }
        foreach ($one->also as $word) {
            self::long("Another word for $of", $word, self::NAME);
        }
    }

    private static function long(string $what, string $text, int $most): void
    {
        if (\strlen($text) > $most && mb_strlen($text) > $most) {
            throw new ModelError(\sprintf('%s has %s characters; %s are the most.', $what, number_format(mb_strlen($text)), number_format($most)));
        }
    }
}
