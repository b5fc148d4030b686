<?php

declare(strict_types=1);

namespace Fasti\Text;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Support\Again;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Everything people write goes through here, so that each change is kept and no one writes over another unseen. */
final readonly class Texts
{
    public function __construct(
        private Connection $db,
        private Vocabulary $vocabulary,
        private SaidStore $said,
        private History $history,
        private EventDispatcherInterface $events,
    ) {
    }

    /**
     * Saves a text if it still reads as it did when the person began; otherwise nothing is written and the text that
     * stands there now comes back with its author.
     *
     * @param string $base    the text the person started from
     * @param string $sitting changes of one sitting become one change in the history
     *
     * @throws BadText
     */
    public function save(Account $account, string $topic, int $id, string $name, string $base, string $value, string $sitting): Saved
    {
        $property = $this->vocabulary->property($topic, $name);
        $value = $this->checked($property, $id, $value);

        return Again::transaction($this->db, function () use ($account, $topic, $id, $property, $base, $value, $sitting): Saved {
            [$subject, $now] = $this->locked($topic, $id, $property);
            if ($now === $value) {
                return new Saved(true, $now);
            }
            $last = $this->history->last($topic, $id, $property->name());
            if ($now !== self::clean($base)) {
                return new Saved(false, $now, null, $last?->by, $last?->at);
            }
            $this->write($subject, $property, $value);
            if (null !== $last && $last->account === $account->id() && $last->sitting === $sitting) {
                $change = $last->id;
                $this->history->extend($change, $value);
            } else {
                $change = $this->history->note($account, $subject, $property->name(), $now, $value, $sitting);
            }

            return new Saved(true, $value, $change, $account->name);
        });
    }

    /**
     * Puts a text back to what it was before a change, however long ago, if it may still be kept. That is itself a change
     * and can be taken back.
     *
     * @throws BadText
     */
    public function takeBack(Account $account, int $changeId): TakenBack
    {
        $change = $this->history->change($changeId) ?? throw new BadText('This change is not in the history.');
        if (!$this->vocabulary->isWritten($change->topic, $change->property)) {
            throw new BadText('What this change was about is not written any more.');
        }
        $property = $this->vocabulary->property($change->topic, $change->property);
        $value = $this->checked($property, $change->topicId, $change->before);

        return Again::transaction($this->db, function () use ($account, $change, $property, $value): TakenBack {
            [$subject, $now] = $this->locked($change->topic, $change->topicId, $property);
            if ($now !== $value) {
                $this->write($subject, $property, $value);
                $this->history->note($account, $subject, $property->name(), $now, $value, 'back-'.bin2hex(random_bytes(8)));
            }

            return new TakenBack($change->topic, $change->topicId, $property->name(), $value);
        });
    }

    /** @throws BadText */
    private function checked(Property $property, int $id, string $value): string
    {
        $value = self::clean($value);
        if (mb_strlen($value) > $property->most()) {
            throw new BadText(\sprintf(
                'This text has %d characters; %d fit here. It is kept in this browser: shorten it, and it will be saved.',
                mb_strlen($value),
                $property->most(),
            ));
        }
        $property->check($value, $id);

        return $value;
    }

    /**
     * @return array{Subject, string} the thing, and the text as it stands
     *
     * @throws BadText
     */
    private function locked(string $name, int $id, Property $property): array
    {
        $topic = $this->vocabulary->topic($name);
        $subject = $topic->locked($id) ?? throw new BadText(\sprintf('This %s is not in the register.', $name));
        $column = $property->column();

        return [$subject, null === $column ? $this->said->one($name, $id, $property->name()) : $topic->read($id, $column)];
    }

    private function write(Subject $subject, Property $property, string $value): void
    {
        $topic = $this->vocabulary->topic($subject->topic);
        $column = $property->column();
        if (null === $column) {
            $this->said->write($subject->topic, $subject->id, $property->name(), $value);
        } else {
            $topic->write($subject, $column, $value);
        }
        $topic->touched($subject, $property);
        $this->events->dispatch(new TextSaved($subject, $property->name(), $value));
    }

    /** Line ends of one kind, and nothing that is not text. Spaces at the end belong to typing, not to the text. */
    private static function clean(string $text): string
    {
        return rtrim(preg_replace('/[\x00-\x08\x0B\x0C\x0E-\x1F\x7F]/u', '', str_replace(["\r\n", "\r"], "\n", mb_scrub($text))) ?? '');
    }
}
