<?php

declare(strict_types=1);

namespace Fasti\Bench\Joins;

use Fasti\Bench\Real\Corpus;
use Fasti\Core\Join\Chooser;

/** The made schemas that weights are fitted to: each as it is written, and in three other styles. */
final class Training
{
    private const STYLES = 3;

    /** @var array<string, list<Known>> by schema, without data */
    private array $named = [];
    /** @var array<string, true> those that have no rows here */
    private array $real = [];
    /** @var array<string, list<Known>> the same, looked at */
    private array $looked = [];

    /** @param ?Corpus $corpus schemas of real programs, of which the same is learnt as of those that are made; null for these alone */
    public function __construct(?Corpus $corpus = null)
    {
        if (null !== $corpus) {
            foreach ($corpus->names() as $name) {
                $this->named[$name] = [$corpus->known($name), ...array_values($corpus->variants($name))];
                $this->real[$name] = true;
            }
        }
        foreach (Made::names() as $name) {
            for ($style = 0; $style <= self::STYLES; ++$style) {
                $catalog = Made::of($name, 0 === $style ? 0 : $style * 10 + crc32($name) % 7);
                $this->named[$name][] = new Known($name, $catalog, Fit::truth($catalog));
            }
        }
    }

    /**
     * @param string ...$leftOut schemas that nothing is learnt from
     *
     * @return array{names: array<string, float>, data: array<string, float>}
     */
    public function weights(string ...$leftOut): array
    {
        $names = $this->names(...$leftOut);

        return ['names' => $names, 'data' => Fit::weights($this->without($this->looked(), $leftOut), [], 3, true, new Chooser($names))];
    }

    /** @return array<string, float> */
    public function names(string ...$leftOut): array
    {
        return Fit::weights($this->without($this->named, $leftOut));
    }

    /** @return array<string, list<Known>> */
    private function looked(): array
    {
        if ([] === $this->looked) {
            $names = $this->names();
            $seed = 1;
            foreach (array_diff_key($this->named, $this->real) as $name => $schemas) {
                foreach ($schemas as $known) {
                    $copy = new Known($name, $known->catalog, $known->truth);
                    $copy->look(new Filled($known->catalog, $seed++), new Chooser($names + Fit::BEFOREHAND, new Chooser($names)));
                    $this->looked[$name][] = $copy;
                }
            }
        }

        return $this->looked;
    }

    /**
     * @param array<string, list<Known>> $all
     * @param array<array-key, string>   $leftOut
     *
     * @return list<Known>
     */
    private function without(array $all, array $leftOut): array
    {
        return array_merge(...array_values(array_diff_key($all, array_fill_keys($leftOut, true))));
    }
}
