<?php

declare(strict_types=1);

namespace Fasti\Demo;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Source\Source;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;
use Twig\Attribute\AsTwigFunction;

/** One click brings the demo's database to its next season, so that there is something to compare. */
final class DemoController extends AbstractController
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Connection $db,
        #[Autowire('%env(DATABASE_HOST)%')] private readonly string $host,
        #[Autowire('%env(int:DATABASE_PORT)%')] private readonly int $port,
        #[Autowire('%env(DATABASE_USER)%')] private readonly string $user,
        #[Autowire('%env(DATABASE_PASSWORD)%')] private readonly string $password,
    ) {
    }

    #[IsGranted(Act::SURVEY)]
    #[IsCsrfTokenValid('demo')]
    public function advance(): Response
    {
        $source = $this->entities->getRepository(Source::class)->findOneBy(['name' => 'fieldwork']) ?? throw $this->createNotFoundException(
            'The demo is not loaded.',
        );
        if ($this->canAdvance($source->id())) {
            (new Fieldwork(new \PDO(
                \sprintf('mysql:host=%s;port=%d;charset=utf8mb4', $this->host, $this->port),
                $this->user,
                $this->password,
                [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
            )))->advance();
        }

        return $this->forward('Fasti\Survey\SurveyController::startFor', ['id' => $source->id()]);
    }

    /** Whether a source is the demo's fieldwork, still in its first season. */
    #[AsTwigFunction('demo_can_advance')]
    public function canAdvance(int $sourceId): bool
    {
        $source = $this->entities->find(Source::class, $sourceId);

        return null !== $source && LoadDemoCommand::ACCOUNT === $source->connection()->account && $source->connection()->port === $this->port
            && [] !== $this->db->fetchFirstColumn(
                "SELECT 1 FROM information_schema.TABLES WHERE TABLE_SCHEMA = 'fieldwork' AND TABLE_NAME = ?",
                [Fieldwork::ONLY_IN_FIRST_SEASON],
            );
    }
}
