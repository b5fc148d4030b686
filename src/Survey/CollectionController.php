<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Files\JsonSchema;
use Fasti\Core\Files\MemberList;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Register\ApplyCatalog;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\RegisterCatalog;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Source\Deliveries;
use Fasti\Source\Source;
use Fasti\Text\BadText;
use Fasti\Text\SaidStore;
use Fasti\Text\Texts;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** What is particular to collections of documents: their JSON Schema, tests against it, and planning them ahead. */
final class CollectionController extends AbstractController
{
    public function __construct(
        private readonly Entries $entries,
        private readonly RegisterCatalog $register,
        private readonly Texts $texts,
        private readonly DocumentTest $test,
        private readonly Deliveries $deliveries,
        private readonly SaidStore $said,
        private readonly EntryStore $store,
    ) {
    }

    /** The schema, worked out or tightened, and a place to test documents against it. */
    #[Route('/register/{id<\d+>}/schema', name: 'entry_schema', methods: ['GET', 'POST'])]
    public function schema(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $entry = $this->entry($id);
        $drawn = $this->drawn($entry);
        $error = null;
        $result = null;
        $typed = $request->request->has('schema') ? $request->request->getString('schema') : null;
        if ($request->isMethod('POST')) {
            if (!$this->isCsrfTokenValid('entry_schema', $request->request->getString('_token'))) {
                throw $this->createAccessDeniedException('The form had expired.');
            }
            try {
                $schema = $this->stated($id) ?: $drawn;
                $file = $request->files->get('documents');
                if ($file instanceof UploadedFile) {
                    $result = $this->tested($file, $schema);
                } elseif (null !== $typed) {
                    $this->denyAccessUnlessGranted(Act::DESCRIBE);
                    $same = trim($typed) === trim($drawn);
                    $this->texts->save(
                        $account,
                        EntryTopic::NAME,
                        $id,
                        'jsonSchema',
                        $request->request->getString('base'),
                        $same ? '' : $typed,
                        bin2hex(random_bytes(8)),
                    );

                    return $this->redirectToRoute('entry_schema', ['id' => $id], 303);
                } else {
                    throw new SourceError('No file of documents was handed in.', 'Choose a .json or .jsonl file.');
                }
            } catch (SourceError $e) {
                $error = $e->inWords();
            } catch (BadText $e) {
                $error = $e->getMessage();
            }
        }

        return $this->render(
            'survey/schema.html.twig',
            ['entry' => $entry, 'stated' => $this->stated($id), 'drawn' => $drawn, 'typed' => $typed, 'error' => $error, 'result' => $result],
            new Response(status: null === $error ? 200 : 422),
        );
    }

    #[Route('/register/{id<\d+>}/schema.json', name: 'entry_schema_file', methods: ['GET'])]
    public function schemaFile(int $id): Response
    {
        $entry = $this->entry($id);

        return new Response(
            $this->stated($id) ?: $this->drawn($entry),
            200,
            [
                'Content-Type' => 'application/schema+json',
                'Content-Disposition' => 'attachment; filename="'.preg_replace('/[^\w.-]+/', '_', $entry->name).'.schema.json"',
            ],
        );
    }

    /** Documents a collection before it exists. */
    #[Route('/sources/{id<\d+>}/plan', name: 'collection_plan', methods: ['GET', 'POST'])]
    #[IsGranted(Act::DESCRIBE)]
    public function plan(Request $request, int $id, EntityManagerInterface $entities, ApplyCatalog $apply): Response
    {
        $source = $entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
        $error = null;
        $name = trim($request->request->getString('name'));
        $about = trim($request->request->getString('about'));
        $members = $request->request->getString('members');
        if ($request->isMethod('POST')) {
            if (!$this->isCsrfTokenValid('collection_plan', $request->request->getString('_token'))) {
                throw $this->createAccessDeniedException('The form had expired.');
            }
            try {
                if ('' === $name || mb_strlen($name) > 200) {
                    throw new SourceError(
                        '' === $name ? 'The collection has no name yet.' : 'The name is too long.',
                        'Give it the name that its files will have.',
                    );
                }
                if (null !== $this->store->at($id, new Place(FilesReader::SCHEMA, $name))) {
                    throw new SourceError(\sprintf('The source has an entry “%s” already.', $name), 'Choose another name.');
                }
                $table = MemberList::table(FilesReader::SCHEMA, $name, $about, $members);
                $entities->wrapInTransaction(static function () use ($apply, $id, $table): void {
                    $apply->apply($id, new Catalog('files', '', [$table]), new Choice([], [addcslashes($table->name, '*?')]), new SilentProgress());
                });

                return $this->redirectToRoute('entry', ['id' => $this->store->at($id, $table->place())], 303);
            } catch (SourceError $e) {
                $error = $e->inWords();
            }
        }

        return $this->render(
            'survey/plan.html.twig',
            ['source' => $source, 'name' => $name, 'about' => $about, 'members' => $members, 'error' => $error],
            new Response(status: null === $error ? 200 : 422),
        );
    }

    /** The schema as a steward has tightened it; '' for the one that is worked out. */
    private function stated(int $id): string
    {
        return $this->said->one(EntryTopic::NAME, $id, 'jsonSchema');
    }

    private function entry(int $id): EntryView
    {
        $entry = $this->entries->one($id);

        return null !== $entry && TableType::Collection === $entry->facts->kind
            ? $entry
            : throw $this->createNotFoundException('There is no such collection in the register.');
    }

    private function drawn(EntryView $entry): string
    {
        $table = $this->register->entry($entry->id) ?? throw $this->createNotFoundException('There is no such collection in the register.');
        $meanings = [];
        foreach ($entry->fields as $field) {
            if ('' !== $field->meaning) {
                $meanings[$field->name] = $field->meaning;
            }
        }

        return (string) json_encode(
            JsonSchema::of($table, $entry->title, $entry->meaning, $meanings),
            \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
        );
    }

    /**
     * @return array{documents: int, failed: int, failures: list<array{document: int, path: string, why: string}>, notes: list<string>}
     *
     * @throws SourceError
     */
    private function tested(UploadedFile $file, string $schema): array
    {
        if (!$file->isValid()) {
            throw new SourceError(
                \sprintf('“%s” did not arrive whole: %s', $file->getClientOriginalName(), $file->getErrorMessage()),
                'The command fasti:validate takes files of any size.',
            );
        }
        $folder = $this->deliveries->keep([$file->getClientOriginalName() => $file->getPathname()]);

        try {
            return $this->test->run((glob($folder.'/*') ?: [''])[0], $schema);
        } finally {
            $this->deliveries->discard($folder);
        }
    }
}
