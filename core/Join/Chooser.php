<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/**
 * How likely each candidate of a field is, given that it leads to one of them or to nothing: a conditional logit (D. McFadden,
 * "Conditional logit analysis of qualitative choice behavior", 1973). Leading nowhere has the worth 0. So competing targets
 * take from each other, and what comes out is a probability where the weights were fitted.
 */
final class Chooser
{
    /**
     * Weights that are held back while they are fitted make for too much doubt on both sides of a half (the factor), and for too much belief that a
     * field leads nowhere, more so where its values speak (the odds). Set so that of what is said with 0.7 about seven in ten are right: bin/bench joins.
     */
    private const CALIBRATED = ['names' => [1.3, 1.5], 'data' => [1.6, 2.2]];

    /**
     * @param array<string, float> $weights     by feature
     * @param ?self                $withoutData for fields of whose values nothing is known
     * @param ?array{float, float} $calibrated  by how much more the weights count, and the odds of leading somewhere; null for those of CALIBRATED
     */
    public function __construct(private readonly array $weights, private readonly ?self $withoutData = null, private readonly ?array $calibrated = null)
    {
    }

    /** @param bool $data whether the data was looked at as well */
    public static function fitted(bool $data): self
    {
        return new self(self::shipped()[$data ? 'data' : 'names'], $data ? self::fitted(false) : null);
    }

    /** @return array{names: array<string, float>, data: array<string, float>} by feature, as bench/fit.php has written them */
    public static function shipped(): array
    {
        /** @var array{names: array<string, float>, data: array<string, float>}|null $read */
        static $read = null;
        if (null === $read) {
            /** @var array{names: array<string, float>, data: array<string, float>} $read */
            $read = json_decode((string) file_get_contents(__DIR__.'/weights.json'), true, flags: \JSON_THROW_ON_ERROR);
        }

        return $read;
    }

    /**
     * Sets the confidence of the candidates of one field, or of one row of fields.
     *
     * @param list<Candidate> $candidates
     */
    public function weigh(array $candidates): void
    {
        if ([] !== array_filter($candidates, static fn (Candidate $one): bool => $one->certain)) {
            return;
        }
        if (null !== $this->withoutData && [] === array_filter($candidates, static fn (Candidate $one): bool => null !== $one->data)) {
            $this->withoutData->weigh($candidates);

            return;
        }
        [$factor, $odds] = $this->calibrated ?? self::CALIBRATED[null === $this->withoutData ? 'names' : 'data'];
        $worths = array_map(fn (Candidate $one): float => $factor * $this->worth($one), $candidates);
        $most = max([0.0, ...$worths]);
        $sum = exp(-$most) / $odds;
        foreach ($worths as $worth) {
            $sum += exp($worth - $most);
        }
        foreach ($candidates as $i => $candidate) {
            $candidate->confidence = exp($worths[$i] - $most) / $sum * (1 - ($candidate->features[Feature::IMPLIED] ?? 0.0));
        }
    }

    public function worth(Candidate $candidate): float
    {
        $worth = 0.0;
        foreach ($candidate->features as $feature => $value) {
            $worth += ($this->weights[$feature] ?? 0.0) * $value;
        }

        return $worth;
    }

    /** How much a feature counted for a candidate. */
    public function counts(Candidate $candidate, string $feature): float
    {
        $of = null === $candidate->data && null !== $this->withoutData ? $this->withoutData : $this;

        // What a wider join implies takes from the confidence as a whole; in terms of odds it is about this.
        return Feature::IMPLIED === $feature
            ? log(max(0.02, 1 - ($candidate->features[$feature] ?? 0.0)))
            : ($of->weights[$feature] ?? 0.0) * ($candidate->features[$feature] ?? 0.0);
    }
}
