<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Core\Survey\SourceError;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** How many questions are under way: so many of one person at a time, and so many of all, so that no source is asked more than it can bear. */
final readonly class AskingNow
{
    public const EACH = 2;
    public const ALL = 8;

    public function __construct(
        #[Autowire('%kernel.project_dir%')]
        private string $projectDir,
    ) {
    }

    /**
     * Keeps a place until what it gives is released, at the latest when the process ends.
     *
     * @return list<resource> locks
     *
     * @throws SourceError where there is none
     */
    public function place(Account $account): array
    {
        $own = $this->first('of-'.$account->id(), self::EACH) ?? throw new SourceError(
            \sprintf('You have %d questions under way already.', self::EACH),
            'Wait for one of them, or cancel it; then ask again.',
        );
        $all = $this->first('all', self::ALL) ?? throw new SourceError(
            \sprintf('%d questions of others are under way.', self::ALL),
            'Ask again in a moment.',
        );

        return [$own, $all];
    }

    /** @return resource|null */
    private function first(string $name, int $places)
    {
        $folder = $this->projectDir.'/var/asking';
        if (!is_dir($folder)) {
            @mkdir($folder, 0700, true);
        }
        for ($n = 1; $n <= $places; ++$n) {
            $file = fopen("$folder/$name-$n.lock", 'c');
            if (false !== $file && flock($file, \LOCK_EX | \LOCK_NB)) {
                return $file;
            }
        }

        return null;
    }
}
