<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Edition\Message\MakeEdition;
use Psr\Log\LoggerInterface;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

#[AsMessageHandler]
final readonly class MakeEditionHandler
{
    public function __construct(private EntityManagerInterface $entities, private Publisher $publisher, private LoggerInterface $logger)
    {
    }

    public function __invoke(MakeEdition $message): void
    {
        $edition = $this->entities->find(Edition::class, $message->editionId);
        if (null === $edition || 'waiting' !== $edition->state) {
            return;
        }
        try {
            $this->publisher->make($edition);
        } catch (\Throwable $e) {
            // The edition says already that it failed and why; a retry would not change that.
            $this->logger->error('Edition {number} failed', ['number' => $edition->number, 'exception' => $e]);
        } finally {
            $this->entities->clear();
        }
    }
}
