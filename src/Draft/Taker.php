<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Draft\Draft;
use Fasti\Support\Again;
use Fasti\Text\BadText;
use Fasti\Text\Texts;

/** Takes drafts, in one place or in several at once, and takes all of that back in one go. */
final readonly class Taker
{
    public function __construct(private Texts $texts, private DraftStore $store, private Connection $db)
    {
    }

    /**
     * @param list<int> $elsewhere other fields of which the same is true
     *
     * @return array{taking: int, changes: list<int>, left: list<int>} `left` are places where somebody has written meanwhile
     *
     * @throws BadText
     */
    public function take(Account $account, string $topic, int $id, Draft $draft, array $elsewhere): array
    {
        return Again::transaction($this->db, function () use ($account, $topic, $id, $draft, $elsewhere): array {
            $sitting = 'take-'.bin2hex(random_bytes(8));
            $changes = $left = [];
            // One order for all, so that two who take at once do not wait for one another in turn.
            $ids = array_values(array_unique([$id, ...$elsewhere]));
            sort($ids);
            foreach ($ids as $place) {
                $done = $this->texts->save($account, $topic, $place, $draft->property, '', $draft->text, $sitting);
                if (!$done->saved) {
                    $left[] = $place;
                } elseif (null !== $done->change) {
                    $changes[] = $done->change;
                }
            }
            if (!\in_array($id, $left, true)) {
                $this->store->decided($topic, $id, $draft->property, $draft, true, $account);
            }

            return ['taking' => $this->store->took($account, $changes, $draft->text), 'changes' => $changes, 'left' => $left];
        });
    }

    /**
     * @return int in how many places it was
     *
     * @throws BadText
     */
    public function back(Account $account, int $taking): int
    {
        return Again::transaction($this->db, function () use ($account, $taking): int {
            $changes = $this->store->taking($taking) ?? throw new BadText('This was taken back already.');
            foreach (array_reverse($changes) as $change) {
                $this->texts->takeBack($account, $change);
            }
            $this->store->undone($taking);

            return \count($changes);
        });
    }
}
