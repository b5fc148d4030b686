<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Account\AccountStore;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\SceneError;
use Fasti\Diagram\Topic\DiagramTopic;
use Fasti\Register\Standing;
use Fasti\Text\BadText;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/** What people write of kept diagrams, and what stands where: all pieces as one JSON text, so that a sitting is one change that can be taken back. */
final readonly class DiagramProperties implements Properties
{
    public const ARRANGEMENT = 'arrangement';

    public function __construct(private Diagrams $diagrams, private AccountStore $accounts)
    {
    }

    public function all(): iterable
    {
        $topic = DiagramTopic::NAME;
        yield new Property($topic, self::ARRANGEMENT, most: 4000000, column: self::ARRANGEMENT, check: self::isRead(...), inWords: self::inWords(...));
        yield new Property($topic, 'owner', most: 10, column: 'owner_id', editor: Editor::Choice, choices: $this->accounts->open(...));
        yield from $this->diagrams->properties('What is it for?');
        yield Standing::property($topic);
    }

    private static function isRead(string $value): void
    {
        try {
            Arrangement::fromJson($value);
        } catch (SceneError $e) {
            throw new BadText($e->getMessage());
        }
    }

    private static function inWords(string $before, string $after): string
    {
        try {
            return Arrangement::fromJson($after)->since(Arrangement::fromJson($before));
        } catch (SceneError $e) {
            return $e->getMessage();
        }
    }
}
