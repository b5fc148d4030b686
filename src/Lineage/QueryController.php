<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\LiveLinks;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\KnownSource;
use Fasti\Source\Source;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Queries that are no views: pasted or handed in, read, and kept for those who ask next. */
final class QueryController extends AbstractController
{
    private const MOST = 2_000_000;

    public function __construct(
        private readonly KeptQueries $queries,
        private readonly SourceStore $sources,
        private readonly EntityManagerInterface $orm,
        private readonly RegisterCatalog $catalog,
        private readonly EntryStore $entries,
        private readonly Fields $fields,
        private readonly LiveLinks $links,
    ) {
    }

    #[Route('/register/queries', name: 'queries', methods: ['GET'])]
    public function list(Request $request): Response
    {
        return $this->page(null, $request->query->getInt('source'), '');
    }

    /** Reads a query, and keeps nothing. */
    #[Route('/register/queries/read', name: 'query_read', methods: ['POST'])]
    #[IsCsrfTokenValid('query')]
    public function read(Request $request): Response
    {
        [$text, $error] = self::text($request);
        $source = $this->orm->find(Source::class, $request->request->getInt('source'));
        if (null === $source) {
            $error = 'Choose the source whose tables the query reads.';
        }
        if (null !== $error || null === $source) {
            return $this->page(null, (int) $source?->id(), $text, $error);
        }

        return $this->page($source, $source->id(), $text, null, $request->request->getString('name'));
    }

    #[Route('/register/queries', name: 'query_keep', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('query')]
    public function keep(Request $request, #[CurrentUser] Account $account): Response
    {
        [$text, $error] = self::text($request);
        $name = trim($request->request->getString('name'));
        $source = $this->orm->find(Source::class, $request->request->getInt('source'));
        if (null !== $error || null === $source) {
            return $this->page(null, (int) $source?->id(), $text, $error ?? 'Choose the source whose tables the query reads.');
        }
        if ('' === $name || mb_strlen($name) > 120) {
            return $this->page($source, $source->id(), $text, 'Say in up to 120 characters what the query is for; it is found again by that.', $name);
        }

        return $this->redirectToRoute('query', ['id' => $this->queries->keep($source, $name, $text, $account)->id()], 303);
    }

    #[Route('/register/queries/{id<\d+>}', name: 'query', methods: ['GET'])]
    public function show(int $id): Response
    {
        $query = $this->queries->one($id) ?? throw $this->createNotFoundException('There is no such query.');

        return $this->page($query->source, $query->source->id(), $query->text, null, '', $query);
    }

    private function page(?Source $source, int $chosen, string $text, ?string $error = null, string $name = '', ?KeptQuery $kept = null): Response
    {
        $reading = $view = $traced = null;
        if (null !== $source) {
            [$catalog, $gone] = $this->catalog->of($source->id());
            $catalog = $catalog->with(tables: array_values(array_filter($catalog->tables, static fn ($table): bool => !isset($gone[$table->place()->key()]))));
            $reading = (new Readings($catalog))->query($text);
            $view = (new ReadingMaker($catalog))->of($reading);
            $traced = $this->named($source->id(), $reading);
        }
        $sources = array_filter($this->sources->all(), static fn (KnownSource $one): bool => null !== Dialects::of($one->engine)->grammar());

        return $this->render('lineage/queries.html.twig', [
            'sources' => $sources, 'chosen' => $chosen, 'text' => $text, 'error' => $error, 'name' => $name, 'kept' => $kept, 'read' => $reading,
            'reading' => $view,
            'traced' => $traced, 'links' => $this->links, 'queries' => null === $kept && null === $reading ? $this->queries->all() : [],
        ], new Response(status: null === $error ? 200 : 422));
    }

    /** What the query names, as the register knows it. */
    private function named(int $source, Reading $reading): Traced
    {
        $places = $this->entries->places($source);
        $entries = $fields = [];
        foreach ($reading->tables as $table) {
            if (isset($places[$table->key()])) {
                $entries[$table->key()] = $places[$table->key()];
            }
        }
        $ids = $this->fields->ids(array_values($entries));
        foreach ($entries as $key => $entry) {
            foreach ($ids[$entry] ?? [] as $name => $id) {
                $at = Place::ofKey($key);
                $fields[(new FieldPlace($at->schema, $at->name, (string) $name))->key()] = [$entry, $id];
            }
        }

        return new Traced(null, [], $entries, $fields, [], [], new Retirement(false));
    }

    /** @return array{string, ?string} the query, and what is wrong with it */
    private static function text(Request $request): array
    {
        $file = $request->files->get('file');
        $text = $request->request->getString('text');
        if ($file instanceof UploadedFile) {
            if (!$file->isValid()) {
                return [$text, 'The file did not arrive: '.$file->getErrorMessage()];
            }
            $text = (string) file_get_contents($file->getPathname());
        }
        if (\strlen($text) > self::MOST) {
            return ['', 'The query is longer than 2 MB. Hand it in as a script of a source instead.'];
        }
        if ('' === trim($text)) {
            return ['', 'Paste a query or hand in a file with one.'];
        }
        if (!mb_check_encoding($text, 'UTF-8')) {
            $text = str_contains(substr($text, 0, 200), "\0") ? '' : mb_convert_encoding($text, 'UTF-8', 'Windows-1252');
            if ('' === $text) {
                return ['', 'The file is not a text in UTF-8. Save it as UTF-8 and hand it in again.'];
            }
        }

        return [str_replace("\r\n", "\n", (string) preg_replace('/^\x{FEFF}/u', '', $text)), null];
    }
}
