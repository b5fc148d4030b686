<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Model\ModelFinding;

/** Findings of a model, by what they are about. */
final readonly class Noted
{
    /** @var array<string, list<ModelFinding>> */
    private array $about;

    /** @param list<ModelFinding> $findings */
    public function __construct(array $findings)
    {
        $about = [];
        foreach ($findings as $finding) {
            $about[$finding->about][] = $finding;
        }
        $this->about = $about;
    }

    /** @return list<ModelFinding> */
    public function of(string $about): array
    {
        return $this->about[$about] ?? [];
    }

    /** @return list<ModelFinding> those that are more than notes */
    public function pressing(string $about): array
    {
        return array_values(array_filter($this->of($about), static fn (ModelFinding $one): bool => Severity::Note !== $one->severity));
    }
}
