<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Hierarchy;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelLimits;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Shared;
use Fasti\Core\Model\Sharing;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ModelLimitsTest extends TestCase
{
    /** @param \Closure(): Model $model */
    #[DataProvider('models')]
    public function testWhatIsTooLargeIsSaidWithItsNumberAndTheLimit(\Closure $model, string $said): void
    {
        $this->expectException(ModelError::class);
        $this->expectExceptionMessage($said);
        ModelLimits::check($model());
    }

    /** @return iterable<string, array{\Closure(): Model, string}> */
    public static function models(): iterable
    {
        $measure = static fn (string $name = 'visits', string $expression = '', string $filter = '', string $meaning = ''): Model => new Model('m', measures: [
            new Measure($name, new Count(), expression: $expression, filter: $filter, meaning: $meaning),
        ]);
        $role = static fn (Attribute ...$attributes): Role => new Role(
            'person',
            RoleKind::Dimension,
            new Place('main', 'person'),
            attributes: array_values($attributes),
        );
        yield 'an expression' => [
            static fn (): Model => $measure(expression: str_repeat('é', 4001)),
            'The expression of “visits” has 4,001 characters; 4,000 are the most.',
        ];
        yield 'a filter' => [static fn (): Model => $measure(filter: str_repeat('a', 5000)), 'The filter of “visits” has 5,000 characters'];
        yield 'a meaning' => [static fn (): Model => $measure(meaning: str_repeat('a', 1000000)), 'The meaning of “visits” has 1,000,000 characters'];
        yield 'a name' => [static fn (): Model => $measure(name: str_repeat('n', 161)), 'The name of a measure has 161 characters; 160 are the most.'];
        yield 'measures' => [
            static fn (): Model => new Model('m', measures: array_fill(0, 1001, new Measure('visits', new Count()))),
            'A model has 1,000 measures at the most, and this one would have 1,001.',
        ];
        yield 'attributes' => [
            static fn (): Model => new Model(
                'm',
                roles: [$role(...array_fill(0, 20001, new Attribute('a', 'a')))],
            ), 'A model has 20,000 attributes at the most, and this one would have 20,001.',
        ];
        yield 'an expression of an attribute' => [
            static fn (): Model => new Model('m', roles: [$role(new Attribute('a', str_repeat('b', 4001)))]),
            'The expression of “a” has 4,001',
        ];
        yield 'a folder' => [
            static fn (): Model => new Model('m', measures: [new Measure('visits', new Count(), folder: str_repeat('f', 161))]),
            'The folder of “visits” has 161 characters',
        ];
        yield 'who answers for it' => [
            static fn (): Model => new Model('m', roles: [$role(new Attribute('a', 'b', owner: str_repeat('f', 161)))]),
            'Who answers for “a” has 161 characters',
        ];
        yield 'other words' => [
            static fn (): Model => new Model('m', roles: [$role(new Attribute('a', 'b', also: array_fill(0, 51, 'c')))]),
            '“a” has 51 other words; 50 are the most.',
        ];
        yield 'another word' => [
            static fn (): Model => new Model('m', measures: [new Measure('visits', new Count(), also: [str_repeat('f', 161)])]),
            'Another word for “visits” has 161 characters',
        ];
        yield 'sharings' => [
            static fn (): Model => new Model('m', sharings: array_fill(0, 501, new Sharing('a', 'b'))),
            'A model has 500 sharings at the most',
        ];
        yield 'a weight' => [
            static fn (): Model => new Model('m', sharings: [new Sharing('a', 'b', Shared::ByWeight, str_repeat('w', 4001))]),
            'The weight of a link has 4,001 characters',
        ];
        yield 'what it is sorted by' => [
            static fn (): Model => new Model('m', roles: [$role(new Attribute('a', 'b', sorted: str_repeat('b', 4001)))]),
            'What “a” is sorted by has 4,001',
        ];
    }

    /** Every text that a model is made of has an end: a new one fails here until it has. */
    public function testEveryTextHasAnEnd(): void
    {
        $river = River::model();
        $long = str_repeat('x', 4001);
        $of = static fn (Model $model): string => (static function () use ($model): string {
            try {
                ModelLimits::check($model);
            } catch (ModelError $e) {
                return $e->getMessage();
            }

            return '';
        })();
        foreach (['name', 'expression', 'filter', 'meaning', 'reason', 'format'] as $part) {
            $measure = Made::with(Measure::class, [$part => $long] + get_object_vars($river->measures[0]));
            self::assertStringContainsString($part, $of($river->with(measures: [$measure])), $part);
        }
        foreach (['name', 'expression', 'meaning', 'sorted'] as $part) {
            $attribute = Made::with(Attribute::class, [$part => $long] + ['name' => 'a', 'expression' => 'b']);
            $role = Made::with(Role::class, ['attributes' => [$attribute]] + get_object_vars($river->roles[0]));
            self::assertStringContainsString($part, $of($river->with(roles: [$role])), $part);
        }
        $role = Made::with(Role::class, ['name' => $long] + get_object_vars($river->roles[0]));
        self::assertStringContainsString('The name of a role has 4,001', $of($river->with(roles: [$role])));
        $hierarchy = new Hierarchy($long, [new Level('day', 'year'), new Level('day', 'month')]);
        self::assertStringContainsString('The name of a hierarchy has 4,001', $of($river->with(hierarchies: [$hierarchy])));
        self::assertStringContainsString('A model has 500 roles', $of($river->with(roles: array_fill(0, 501, $river->roles[0]))));
        self::assertStringContainsString('A model has 2,000 joins', $of($river->with(joins: array_fill(0, 2001, $river->joins[0]))));
        self::assertStringContainsString('500 hierarchies', $of($river->with(hierarchies: array_fill(0, 501, new Hierarchy('h', [new Level('day', 'year')])))));
        self::assertSame('', $of($river));
    }

    public function testWhatIsAsLargeAsMayBeIsKept(): void
    {
        ModelLimits::check(new Model('m', measures: [new Measure(str_repeat('é', 160), new Count(), expression: str_repeat('é', 4000))]));
        $this->addToAssertionCount(1);
    }

    public function testAnExpressionThatIsTooLongIsNotReadButSaid(): void
    {
        $began = memory_get_peak_usage();
        $formula = River::ground()->formula('sighting', str_repeat('individuals + ', 70000).'individuals');

        self::assertNull($formula->tree);
        self::assertStringContainsString('The expression has 980,011 characters, and is not read', $formula->faults[0]->message);
        self::assertLessThan(20_000_000, memory_get_peak_usage() - $began);
    }

    public function testASecretFieldIsAFaultWhereverItStands(): void
    {
        $ground = new \Fasti\Core\Model\Ground(
            River::model(),
            River::catalog(),
            closed: [(new Place('', 'sighting'))->key()."\0individuals" => 'it holds secrets, by its name'],
        );
        $ground = '' === $ground->closed('sighting', 'individuals')
            ? new \Fasti\Core\Model\Ground(
                River::model(),
                River::catalog(),
                closed: [$ground->role('sighting')->entry->key()."\0individuals" => 'it holds secrets, by its name'],
            ) : $ground;

        self::assertStringContainsString(
            '“individuals” is closed (it holds secrets, by its name)',
            $ground->formula('sighting', 'weight_g + individuals')->faults[0]->message ?? '',
        );
        self::assertSame([], $ground->formula('sighting', 'weight_g')->faults);
    }
}
