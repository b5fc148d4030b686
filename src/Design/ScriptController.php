<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Design\DesignFile;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Working;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Wording\Enumeration;
use Fasti\Design\Scratch\ScratchServers;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** The script of a design, what comes of it on a scratch server, and the design as files. */
final class ScriptController extends AbstractController
{
    public function __construct(
        private readonly Designs $designs,
        private readonly Abbreviations $short,
        private readonly ScratchServers $servers,
        private readonly Jobs $jobs,
        private readonly DesignJob $job,
    ) {
    }

    #[Route('/designs/{id<\d+>}/script', name: 'design_script', methods: ['GET'])]
    public function script(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        $physical = $this->physical($kept, $request);
        $options = self::options($request);
        $engine = $physical->dialect->name();
        $ran = $engine === ($kept->ran['engine'] ?? '') ? $kept->ran : null;
        $statements = (new DesignScript($physical))->statements($options);

        return $this->render('design/script.html.twig', [
            'kept' => $kept, 'engine' => $engine, 'engines' => DesignController::engines(), 'options' => $options,
            'script' => $physical->dialect->writing($options)->text($statements), 'count' => \count($statements),
            'findings' => $physical->findings, 'ran' => $ran, 'stale' => null !== $ran && ($ran['of'] ?? '') !== hash('xxh128', $kept->readable),
            'scratch' => Enumeration::of($this->servers->labels(), 'or'),
            'runs' => \in_array($engine, $this->servers->engines(), true), 'job' => $this->jobs->newest('design '.$id),
            'mayChange' => $kept->isChangedBy($account), 'broken' => $kept->outline !== $kept->readable,
        ]);
    }

    #[Route('/designs/{id<\d+>}/run', name: 'design_run', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('designs')]
    public function run(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $this->designs->changed($id, $account);
        $engine = Dialects::of($request->request->getString('engine'))->name();
        $this->jobs->start($this->job, 'design '.$id, ['design' => $id, 'engine' => $engine], $account);

        return $this->redirectToRoute('design_script', ['id' => $id, 'engine' => $engine], 303);
    }

    #[Route('/designs/{id<\d+>}.sql', name: 'design_sql', methods: ['GET'])]
    public function sql(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        $text = (new DesignScript($this->physical($kept, $request)))->text(self::options($request));

        return DesignController::download($text, $kept, 'sql', 'application/sql; charset=UTF-8');
    }

    #[Route('/designs/{id<\d+>}.json', name: 'design_json', methods: ['GET'])]
    public function json_(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        $depth = $request->query->getString('depth', 'conceptual');
        $content = 'physical' === $depth
            ? json_encode(
                OpenForm::of($this->physical($kept, $request)->catalog),
                \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
            )
            : DesignFile::json($kept->design(), 'logical' === $depth ? Working::of($kept->design()) : null);

        return DesignController::download($content."\n", $kept, 'json', 'application/json');
    }

    private function physical(KeptDesign $kept, Request $request): Physical
    {
        $design = $kept->design();
        $asked = Dialects::named($request->query->getString('engine'));

        return new Physical(Working::of($design), null !== $asked && $asked->writes() ? $asked : Physical::dialectOf($design), $this->short->all());
    }

    private static function options(Request $request): ScriptOptions
    {
        $schema = trim($request->query->getString('schema'));

        return new ScriptOptions(
            '' === $schema ? null
                : mb_substr($schema, 0, 63), $request->query->getBoolean('drop'), !$request->query->getBoolean('bare'), $request->query->getBoolean('quoted'),
        );
    }
}
