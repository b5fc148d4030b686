<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Wording\Naming as Words;
use Fasti\Support\Markdown;
use Fasti\Support\Row;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class RegisterController extends AbstractController
{
    private const INDEX_MOST = 200;

    public function __construct(private readonly Connection $db, private readonly Entries $entries, private readonly Texts $texts)
    {
    }

    #[Route('/register', name: 'register', methods: ['GET'])]
    public function register(Request $request): Response
    {
        $filter = RegisterFilter::from($request);
        $data = ['filter' => $filter, 'page' => $filter->run($this->db)];
        if ('fetch' === $request->headers->get('X-Requested-With')) {
            return $this->render('register/_rows.html.twig', $data);
        }

        return $this->render('register/register.html.twig', $data + [
            'sources' => $this->db->fetchAllAssociative('SELECT id, name FROM source ORDER BY name'),
            'schemas' => $this->db->fetchFirstColumn('SELECT DISTINCT schema_name FROM entry WHERE ? IN (0, source_id) ORDER BY schema_name LIMIT 500', [$filter->source]),
            'coverage' => $this->db->fetchAssociative('SELECT COUNT(*) AS entries, COALESCE(SUM(field_count), 0) AS fields, COALESCE(SUM(described_count), 0) AS described FROM entry WHERE gone_at IS NULL'),
        ]);
    }

    #[Route('/register/{id<\d+>}', name: 'entry', methods: ['GET'])]
    public function entry(int $id): Response
    {
        $entry = $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry in the register.');

        return $this->render('register/entry.html.twig', [
            'entry' => $entry,
            'index' => $this->index($entry->sourceId, '', $entry->schema, $entry->name),
            'before' => $this->neighbour($entry, '<', 'DESC'),
            'after' => $this->neighbour($entry, '>', 'ASC'),
        ]);
    }

    /** The index beside an entry, narrowed by what is typed. */
    #[Route('/register/index/{source<\d+>}', name: 'register_index', methods: ['GET'])]
    public function indexRows(Request $request, int $source): Response
    {
        return $this->render('register/_index.html.twig', ['index' => $this->index($source, trim($request->query->getString('q')), '', ''), 'current' => $request->query->getInt('current')]);
    }

    #[Route('/register/texts', name: 'text_save', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function save(Request $request, #[CurrentUser] Account $account): JsonResponse
    {
        $given = $request->getPayload();
        $subject = Subject::tryFrom($given->getString('subject'));
        try {
            if (null === $subject) {
                throw new BadText('It is not said what this text is about.');
            }
            $done = $this->texts->save($account, $subject, $given->getInt('id'), $given->getString('property'), $given->getString('base'), $given->getString('value'), $given->getString('sitting'));
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json($done + ['html' => Markdown::html($done['value'])], $done['saved'] ? 200 : 409);
    }

    #[Route('/register/changes/{id<\d+>}/take-back', name: 'change_take_back', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function takeBack(int $id, #[CurrentUser] Account $account): JsonResponse
    {
        try {
            $done = $this->texts->takeBack($account, $id);
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json($done + ['html' => Markdown::html($done['value'])]);
    }

    #[Route('/register/{id<\d+>}/history', name: 'entry_history', methods: ['GET'])]
    public function history(Request $request, int $id): Response
    {
        $entry = $this->entries->one($id) ?? throw $this->createNotFoundException('There is no such entry in the register.');
        $before = $request->query->getInt('before', \PHP_INT_MAX);
        $changes = $this->db->fetchAllAssociative(
            "SELECT c.id, c.subject, c.property, c.text_before, c.text_after, c.at, a.name AS by_name, f.name AS field_name, j.name AS join_name
             FROM change_event c JOIN account a ON a.id = c.account_id LEFT JOIN field f ON c.subject = 'field' AND f.id = c.subject_id LEFT JOIN entry_join j ON c.subject = 'join' AND j.id = c.subject_id
             WHERE c.entry_id = ? AND c.id < ? AND c.text_before <> c.text_after ORDER BY c.id DESC LIMIT 101", [$id, $before]);
        $more = \count($changes) > 100;

        return $this->render('register/history.html.twig', ['entry' => $entry, 'changes' => \array_slice($changes, 0, 100), 'more' => $more]);
    }

    /**
     * Entries of a source by schema, around the current one when there are too many for one list.
     *
     * @return array{rows: list<array<string, mixed>>, total: int, source: int, shown: int}
     */
    private function index(int $source, string $text, string $schema, string $name): array
    {
        $where = 'source_id = ? AND gone_at IS NULL';
        $parameters = [$source];
        if ('' !== $text) {
            $where .= ' AND (name LIKE ? COLLATE utf8mb4_unicode_ci OR business_name LIKE ? OR identifier_id IN (SELECT id FROM identifier WHERE folded LIKE ?))';
            $like = '%'.addcslashes($text, '%_\\').'%';
            array_push($parameters, $like, $like, '%'.addcslashes(Words::folded($text), '%_\\').'%');
        }
        $total = Row::int(['n' => $this->db->fetchOne("SELECT COUNT(*) FROM entry WHERE $where", $parameters)], 'n');
        $columns = 'id, schema_name, name, business_name, field_count, described_count';
        if ($total <= self::INDEX_MOST || '' === $name) {
            $rows = $this->db->fetchAllAssociative("SELECT $columns FROM entry WHERE $where ORDER BY schema_name, name LIMIT ".self::INDEX_MOST, $parameters);
        } else {
            $half = self::INDEX_MOST / 2;
            $rows = [
                ...array_reverse($this->db->fetchAllAssociative("SELECT $columns FROM entry WHERE $where AND schema_name = ? AND name <= ? ORDER BY name DESC LIMIT $half", [...$parameters, $schema, $name])),
                ...$this->db->fetchAllAssociative("SELECT $columns FROM entry WHERE $where AND schema_name = ? AND name > ? ORDER BY name LIMIT $half", [...$parameters, $schema, $name]),
            ];
        }

        return ['rows' => $rows, 'total' => $total, 'source' => $source, 'shown' => \count($rows)];
    }

    private function neighbour(EntryView $entry, string $than, string $order): ?int
    {
        $id = $this->db->fetchOne("SELECT id FROM entry WHERE source_id = ? AND gone_at IS NULL AND schema_name $than= ? AND (schema_name <> ? OR name $than ?) ORDER BY schema_name $order, name $order LIMIT 1", [$entry->sourceId, $entry->schema, $entry->schema, $entry->name]);

        return is_numeric($id) ? (int) $id : null;
    }
}
