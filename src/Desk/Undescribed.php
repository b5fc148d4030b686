<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\Noticed;
use Fasti\Finding\RegisterCheck;

/** Entries with fields that nobody has described, those that are worth the most first. */
final readonly class Undescribed implements RegisterCheck
{
    public const NAME = 'undescribed';

    public function __construct(private Queue $queue)
    {
    }

    public function name(): string
    {
        return 'undescribed';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'What is not described is guessed at, by everybody anew.';
    }

    public function mend(): string
    {
        return 'Work through the queue of the desk; most have a draft that one key takes.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'entry').' have fields that nobody has described';
    }

    public function about(): array
    {
        return [];
    }

    public function of(): iterable
    {
        foreach ($this->queue->byEntry() as $entry => [$fields, $why]) {
            yield new Noticed($entry, null, Amount::of($fields, 'field').' not described'.('' === $why ? '' : '; '.$why), '', '', '-');
        }
    }
}
