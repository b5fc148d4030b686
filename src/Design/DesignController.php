<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\Rules;
use Fasti\Core\Design\TypeReader;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Design\Topic\DesignTopic;
use Fasti\Diagram\Pieces;
use Fasti\Diagram\Selection;
use Fasti\Register\EntryStore;
use Fasti\Source\SourceStore;
use Fasti\Support\Markdown;
use Fasti\Text\BadText;
use Fasti\Text\History;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Designs: their list, making one, and the page on which one is written. */
final class DesignController extends AbstractController
{
    private const LONGEST_NAME = 120;
    private const LONGEST_PURPOSE = 400;

    public function __construct(
        private readonly Designs $designs,
        private readonly Sight $sight,
        private readonly Beginning $beginning,
        private readonly SourceStore $sources,
        private readonly EntryStore $entries,
        private readonly Selection $selection,
        private readonly Pieces $pieces,
    ) {
    }

    #[Route('/designs', name: 'designs', methods: ['GET'])]
    public function list(#[CurrentUser] Account $account): Response
    {
        return $this->render('design/list.html.twig', ['designs' => $this->designs->listed($account)]);
    }

    /** How lines of an outline are written, with an example of each. */
    #[Route('/designs/lines', name: 'outline_grammar', methods: ['GET'])]
    public function grammar(#[Autowire('%kernel.project_dir%/docs/outline.md')] string $page): Response
    {
        return $this->render('design/grammar.html.twig', ['page' => Markdown::html((string) file_get_contents($page))]);
    }

    #[Route('/designs/new', name: 'design_new', methods: ['GET'])]
    #[IsGranted(Act::DESCRIBE)]
    public function new(Request $request): Response
    {
        $asked = $this->selection->asked($request);
        $diagram = $request->query->getInt('diagram');
        $entries = $diagram > 0 ? $this->pieces->of($diagram)->entries() : $asked->entries;

        return $this->form($request->query->getInt('source'), implode(',', $entries), $asked->name);
    }

    private function form(int $source, string $entries, string $name = '', string $purpose = '', ?string $error = null): Response
    {
        $placed = $this->entries->placed(array_values(array_filter(array_map(intval(...), explode(',', $entries)))));

        return $this->render('design/new.html.twig', [
            'sources' => $this->sources->all(), 'source' => $source, 'entries' => $placed, 'name' => $name, 'purpose' => $purpose, 'error' => $error,
        ], new Response(status: null === $error ? 200 : 422));
    }

    #[Route('/designs', name: 'design_make', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('designs')]
    public function make(Request $request, #[CurrentUser] Account $account): Response
    {
        $given = $request->request;
        $name = trim($given->getString('name'));
        $purpose = trim($given->getString('purpose'));
        $source = $given->getInt('source');
        $entries = array_values(array_filter(array_map(intval(...), explode(',', $given->getString('entries')))));
        if ('' === $name) {
            return $this->form($source, $given->getString('entries'), $name, $purpose, 'A design needs a name, under which it is found again.');
        }
        foreach ([['name', $name, self::LONGEST_NAME], ['purpose', $purpose, self::LONGEST_PURPOSE]] as [$what, $said, $most]) {
            if (mb_strlen($said) > $most) {
                $long = \sprintf('The %s has %d characters, and may have %d: say it in fewer.', $what, mb_strlen($said), $most);

                return $this->form($source, $given->getString('entries'), $name, $purpose, $long);
            }
        }
        try {
            $kept = $this->beginning->begin($account, $name, $purpose, $source, $entries);
        } catch (BadText $e) {
            return $this->form($source, $given->getString('entries'), $name, $purpose, $e->getMessage());
        }

        return $this->redirectToRoute('design', ['id' => $kept->id()], 303);
    }

    #[Route('/designs/{id<\d+>}', name: 'design', methods: ['GET'])]
    public function show(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        $depth = $request->query->getString('depth');
        $depth = \in_array($depth, Sight::DEPTHS, true) ? $depth : 'conceptual';
        $sight = $this->sight->of($kept->outline, $depth, $kept->places[$depth] ?? []);
        if (null === $sight['svg']) {
            // Where the outline is broken, its drawing is that of what was understood last.
            $sight = ['svg' => $this->sight->of($kept->readable, $depth, $kept->places[$depth] ?? [])['svg']] + $sight;
        }

        return $this->render('design/show.html.twig', [
            'kept' => $kept, 'depth' => $depth, 'sight' => $sight, 'initial' => array_diff_key($sight, ['svg' => true]),
            'mayChange' => $kept->isChangedBy($account),
            'own' => $kept->owner->id() === $account->id(), 'rules' => Rules::ALL, 'engines' => self::engines(), 'types' => TypeReader::words(),
        ]);
    }

    #[Route('/designs/{id<\d+>}/read', name: 'design_read', methods: ['GET'])]
    public function read(int $id, #[CurrentUser] Account $account): Response
    {
        return $this->render('design/read.html.twig', Reading::of($this->designs->seen($id, $account)));
    }

    /** @return array<string, string> name → label, of those for which scripts are written */
    public static function engines(): array
    {
        return array_map(static fn (Dialect $dialect): string => $dialect->label(), Dialects::written());
    }

    #[Route('/designs/{id<\d+>}/settings', name: 'design_settings', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('designs')]
    public function settings(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->changed($id, $account);
        $given = $request->request;
        if ($given->has('remove')) {
            $this->designs->throwAway($kept, $account);
            $this->addFlash('done', \sprintf('The design “%s” is thrown away. Below the list it can be taken back.', $kept->name));

            return $this->redirectToRoute('designs', [], 303);
        }
        if ($given->has('shared')) {
            $kept->shared = $given->getBoolean('shared');
            $this->designs->save();
        }

        return $this->redirectToRoute('design', ['id' => $id], 303);
    }

    #[Route('/designs/{id<\d+>}/history', name: 'design_history', methods: ['GET'])]
    public function history(Request $request, int $id, #[CurrentUser] Account $account, History $history): Response
    {
        return $this->render('kept/history.html.twig', ['kept' => $this->designs->seen($id, $account), 'store' => $this->designs]
            + ['words' => 'What was changed in it, the latest first. Any of it can be taken back: the outline is then as it was before.']
            + $history->of(DesignTopic::NAME, $id, $request->query->getInt('before', \PHP_INT_MAX)));
    }

    #[Route('/designs/{id<\d+>}.outline', name: 'design_outline', methods: ['GET'])]
    public function outline(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);

        return self::download($kept->outline."\n", $kept, 'outline.txt', 'text/plain; charset=UTF-8');
    }

    public static function download(string $content, KeptDesign $kept, string $ending, string $type): Response
    {
        $name = trim(preg_replace('/[^a-z0-9]+/', '-', mb_strtolower($kept->name)) ?? '', '-');

        return new Response(
            $content,
            200,
            ['Content-Type' => $type, 'Content-Disposition' => \sprintf('attachment; filename="%s.%s"', '' === $name ? 'design' : $name, $ending)],
        );
    }

    /** An outline that has a name and nothing else yet. */
    public static function empty(string $name, string $purpose): string
    {
        return OutlineWriter::design(new Design($name, $purpose));
    }
}
