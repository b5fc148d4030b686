<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Wording\Amount;
use Fasti\Drift\DoubtfulText;
use Fasti\Drift\DriftItems;
use Fasti\Finding\Findings;
use Fasti\Register\Claim;
use Fasti\Register\Claims;
use Fasti\Source\Source;

/** Sources that have changed, and the texts that this made doubtful. */
final readonly class DriftClaims implements Claims
{
    public function __construct(private EntityManagerInterface $entities, private Surveys $surveys, private Findings $findings)
    {
    }

    public function of(Account $account): iterable
    {
        foreach ($this->entities->getRepository(Source::class)->findAll() as $source) {
            $last = $this->surveys->last($source);
            $drift = DriftItems::read($last->drift ?? []);
            if (null !== $last && [] !== $drift && null === $last->decidedAt) {
                $words = array_filter(DriftItems::counts($drift));
                arsort($words);
                yield new Claim(
                    $source->name.' has changed',
                    implode(', ', array_map(static fn (string $what, int $n): string => "$n $what", array_keys($words),
                        $words)).'; nobody has decided what to follow',
                    'survey', ['id' => $last->id()], Claim::DRIFT,
                );
            }
            $doubtful = $this->findings->countOf(DoubtfulText::NAME, $source->id());
            if ($doubtful > 0) {
                yield new Claim(
                    Amount::of($doubtful, 'text').' may no longer hold', 'since '.$source->name.' has changed', 'findings',
                    ['check' => DoubtfulText::NAME, 'source' => $source->id()], Claim::DOUBT,
                );
            }
        }
    }
}
