<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Fasti\Account\Role;
use Fasti\Survey\Surveys;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Routing\RouterInterface;

/** Who may go where: every route of the application is here, and a new one fails the test until it is. */
final class AccessTest extends AppTestCase
{
    /** route → [method, path, the least role] */
    private const ROUTES = [
        'home' => ['GET', '/', 'reader'],
        'register' => ['GET', '/register', 'reader'],
        'entry' => ['GET', '/register/{entry}', 'reader'],
        'register_index' => ['GET', '/register/index/{source}', 'reader'],
        'entry_history' => ['GET', '/register/{entry}/history', 'reader'],
        'text_save' => ['POST', '/texts', 'steward'],
        'change_take_back' => ['POST', '/texts/changes/1/take-back', 'steward'],
        'desk' => ['GET', '/desk', 'steward'],
        'desk_next' => ['GET', '/desk/next', 'steward'],
        'desk_later' => ['POST', '/desk/later', 'steward'],
        'draft_take' => ['POST', '/drafts/take', 'steward'],
        'draft_dismiss' => ['POST', '/drafts/dismiss', 'steward'],
        'draft_elsewhere' => ['POST', '/drafts/elsewhere/999', 'steward'],
        'takings' => ['GET', '/drafts/takings', 'reader'],
        'taking_back' => ['POST', '/drafts/takings/999/back', 'steward'],
        'short_forms' => ['GET', '/register/short-forms', 'reader'],
        'short_form_say' => ['POST', '/register/short-forms', 'steward'],
        'code_lists' => ['GET', '/register/code-lists', 'reader'],
        'code_list_make' => ['POST', '/register/code-lists', 'steward'],
        'code_list' => ['GET', '/register/code-lists/999', 'reader'],
        'code_list_history' => ['GET', '/register/code-lists/999/history', 'reader'],
        'code_list_standard' => ['GET', '/register/code-lists/standard/currencies', 'reader'],
        'code_list_add' => ['POST', '/register/code-lists/999/codes', 'steward'],
        'code_list_of' => ['POST', '/register/code-lists/of/999', 'steward'],
        'code_out' => ['POST', '/register/code-lists/codes/999/out', 'steward'],
        'terms' => ['GET', '/register/glossary', 'reader'],
        'term' => ['GET', '/register/glossary/999', 'reader'],
        'term_history' => ['GET', '/register/glossary/999/history', 'reader'],
        'term_make' => ['POST', '/register/glossary', 'steward'],
        'checks' => ['GET', '/register/findings/checks', 'reader'],
        'check_set' => ['POST', '/register/findings/checks/constant', 'steward'],
        'findings_aside' => ['POST', '/register/findings/aside', 'steward'],
        'findings_again' => ['POST', '/register/findings/again', 'steward'],
        'finding_mend' => ['POST', '/register/findings/999/mend', 'steward'],
        'findings' => ['GET', '/register/findings', 'reader'],
        'finding_aside' => ['POST', '/register/findings/999/aside', 'steward'],
        'lineage_field' => ['GET', '/register/fields/{field}/lineage', 'reader'],
        'lineage_entry' => ['GET', '/register/{entry}/lineage', 'reader'],
        'queries' => ['GET', '/register/queries', 'reader'],
        'query_read' => ['POST', '/register/queries/read', 'reader'],
        'query_keep' => ['POST', '/register/queries', 'steward'],
        'query' => ['GET', '/register/queries/999', 'reader'],
        'joins' => ['GET', '/register/joins', 'reader'],
        'join' => ['GET', '/register/joins/999', 'reader'],
        'joins_look' => ['POST', '/register/joins/look', 'steward'],
        'join_decide' => ['POST', '/register/joins/999/decide', 'steward'],
        'joins_take_all' => ['POST', '/register/joins/take-all', 'steward'],
        'joins_take_back' => ['POST', '/register/joins/take-back', 'steward'],
        'join_state' => ['GET', '/register/{entry}/join', 'steward'],
        'keys' => ['GET', '/register/keys', 'reader'],
        'loops' => ['GET', '/register/loops', 'reader'],
        'loops_count' => ['POST', '/register/loops/count', 'steward'],
        'areas' => ['GET', '/register/areas', 'reader'],
        'areas_put' => ['POST', '/register/areas', 'steward'],
        'route' => ['GET', '/register/route', 'reader'],
        'route_count' => ['POST', '/register/route/count', 'steward'],
        'models' => ['GET', '/models', 'reader'],
        'model_new' => ['GET', '/models/new', 'steward'],
        'model_make' => ['POST', '/models', 'steward'],
        'model' => ['GET', '/models/999', 'reader'],
        'model_json' => ['GET', '/models/999.json', 'reader'],
        'model_matrix' => ['GET', '/models/999/matrix', 'reader'],
        'model_checks' => ['GET', '/models/999/checks', 'reader'],
        'model_look' => ['POST', '/models/999/look', 'steward'],
        'model_lineage' => ['GET', '/models/999/lineage', 'reader'],
        'model_history' => ['GET', '/models/999/history', 'reader'],
        'model_form' => ['GET', '/models/999/form', 'steward'],
        'model_measure' => ['POST', '/models/999/measures', 'steward'],
        'model_attribute' => ['POST', '/models/999/attributes', 'steward'],
        'model_role' => ['POST', '/models/999/roles', 'steward'],
        'model_take' => ['POST', '/models/999/take', 'steward'],
        'model_join' => ['POST', '/models/999/joins', 'steward'],
        'model_route' => ['POST', '/models/999/routes', 'steward'],
        'model_hierarchies' => ['GET', '/models/999/hierarchies', 'steward'],
        'model_hierarchy' => ['POST', '/models/999/hierarchies', 'steward'],
        'model_formula' => ['GET', '/models/999/formula', 'steward'],
        'model_settings' => ['POST', '/models/999/settings', 'steward'],
        'model_trial' => ['GET', '/models/999/trial', 'reader'],
        'model_plan' => ['GET', '/models/999/trial/plan', 'reader'],
        'model_answer' => ['POST', '/models/999/trial/answer', 'steward'],
        'model_cancel' => ['POST', '/models/999/trial/cancel', 'steward'],
        'model_trials' => ['GET', '/models/999/trials', 'reader'],
        'model_trial_keep' => ['POST', '/models/999/trials', 'steward'],
        'model_trial_say' => ['POST', '/models/999/trials/999', 'steward'],
        'designs' => ['GET', '/designs', 'reader'],
        'outline_grammar' => ['GET', '/designs/lines', 'reader'],
        'design_new' => ['GET', '/designs/new', 'steward'],
        'design_make' => ['POST', '/designs', 'steward'],
        'design' => ['GET', '/designs/999', 'reader'],
        'design_read' => ['GET', '/designs/999/read', 'reader'],
        'design_settings' => ['POST', '/designs/999/settings', 'steward'],
        'design_history' => ['GET', '/designs/999/history', 'reader'],
        'design_outline' => ['GET', '/designs/999.outline', 'reader'],
        'design_check' => ['POST', '/designs/999/check', 'reader'],
        'design_about' => ['POST', '/designs/999/about', 'reader'],
        'design_edit' => ['POST', '/designs/999/edit', 'steward'],
        'design_format' => ['POST', '/designs/999/format', 'steward'],
        'design_complete' => ['POST', '/designs/999/complete', 'reader'],
        'design_preview' => ['POST', '/designs/999/preview', 'reader'],
        'design_merge' => ['POST', '/designs/999/merge', 'steward'],
        'design_places' => ['POST', '/designs/999/places', 'steward'],
        'design_script' => ['GET', '/designs/999/script', 'reader'],
        'design_run' => ['POST', '/designs/999/run', 'steward'],
        'design_sql' => ['GET', '/designs/999.sql', 'reader'],
        'design_json' => ['GET', '/designs/999.json', 'reader'],
        'design_changes' => ['GET', '/designs/999/changes', 'reader'],
        'design_changes_sql' => ['GET', '/designs/999/changes.sql', 'reader'],
        'design_rehearse' => ['POST', '/designs/999/changes', 'steward'],
        'search' => ['GET', '/search?q=id', 'reader'],
        'sources' => ['GET', '/sources', 'reader'],
        'source' => ['GET', '/sources/{source}', 'reader'],
        'source_new' => ['GET', '/sources/new', 'steward'],
        'source_edit' => ['GET', '/sources/{source}/connection', 'steward'],
        'source_test' => ['POST', '/sources/test', 'steward'],
        'connection_new' => ['GET', '/sources/{source}/connections/new', 'steward'],
        'connection_edit' => ['GET', '/sources/{source}/connections/{connection}', 'steward'],
        'connection_ask' => ['POST', '/sources/{source}/connections/{connection}/use', 'steward'],
        'source_look' => ['POST', '/sources/{source}/look', 'steward'],
        'source_choose' => ['POST', '/sources/{source}/choice', 'steward'],
        'source_choice' => ['GET', '/sources/{source}/choice', 'steward'],
        'survey_start' => ['POST', '/sources/{source}/survey', 'steward'],
        'survey_start_now' => ['POST', '/sources/{source}/choice/survey', 'steward'],
        'survey' => ['GET', '/surveys/{survey}', 'reader'],
        'survey_catalog' => ['GET', '/surveys/{survey}/catalog.json', 'reader'],
        'survey_report' => ['GET', '/surveys/{survey}/report.txt', 'reader'],
        'survey_decide' => ['POST', '/surveys/{survey}/decide', 'steward'],
        'survey_compare' => ['GET', '/sources/{source}/compare', 'reader'],
        'source_sheet' => ['GET', '/sources/sheets/oracle/columns.sql', 'reader'],
        'collection_plan' => ['GET', '/sources/{source}/plan', 'steward'],
        'entry_schema' => ['GET', '/register/999/schema', 'reader'],
        'entry_schema_file' => ['GET', '/register/999/schema.json', 'reader'],
        'breaking_sql' => ['GET', '/register/fields/999/breaking.sql', 'reader'],
        'profile_start' => ['POST', '/sources/{source}/profile', 'steward'],
        'profile_run' => ['GET', '/profiles/999', 'reader'],
        'job' => ['GET', '/jobs/{job}', 'reader'],
        'job_state' => ['GET', '/jobs/{job}/state', 'reader'],
        'job_ask' => ['POST', '/jobs/{job}/cancel', 'steward'],
        'demo_advance' => ['POST', '/demo/advance', 'steward'],
        'diagrams' => ['GET', '/diagrams', 'reader'],
        'diagram_new' => ['GET', '/diagrams/new', 'reader'],
        'diagram_make' => ['POST', '/diagrams', 'steward'],
        'diagram' => ['GET', '/diagrams/999', 'reader'],
        'diagram_history' => ['GET', '/diagrams/999/history', 'reader'],
        'diagram_follow' => ['POST', '/diagrams/999/follow', 'steward'],
        'diagram_lead' => ['POST', '/diagrams/lead', 'reader'],
        'diagram_changes' => ['POST', '/diagrams/999/changes', 'steward'],
        'diagram_news' => ['GET', '/diagrams/999/changes', 'reader'],
        'diagram_arrange' => ['GET', '/diagrams/999/arrange', 'steward'],
        'diagram_about' => ['GET', '/diagrams/margin/about/999', 'reader'],
        'diagram_join' => ['GET', '/diagrams/margin/join/999', 'reader'],
        'diagram_tablet' => ['GET', '/diagrams/margin/tablet/{entry}', 'reader'],
        'diagram_fields' => ['GET', '/diagrams/margin/fields/{entry}', 'reader'],
        'diagram_leads' => ['GET', '/diagrams/margin/leads/{entry}', 'reader'],
        'diagram_add' => ['GET', '/diagrams/margin/add', 'reader'],
        'diagram_query' => ['GET', '/diagrams/margin/query', 'reader'],
        'diagram_map' => ['GET', '/diagrams/map/{source}', 'reader'],
        'diagram_region' => ['POST', '/diagrams/map/region', 'reader'],
        'diagram_source_keep' => ['POST', '/diagrams/sources/{source}/keep', 'steward'],
        'diagram_entry_keep' => ['POST', '/diagrams/entries/{entry}/keep', 'steward'],
        'diagram_source' => ['GET', '/diagrams/sources/{source}', 'reader'],
        'diagram_entry' => ['GET', '/diagrams/entries/{entry}', 'reader'],
        'editions' => ['GET', '/editions', 'reader'],
        'edition_make' => ['POST', '/editions', 'steward'],
        'edition_zip' => ['GET', '/editions/999.zip', 'reader'],
        'edition' => ['GET', '/editions/999/index.html', 'reader'],
        'accounts' => ['GET', '/accounts', 'administrator'],
        'account_new' => ['GET', '/accounts/new', 'administrator'],
        'account_edit' => ['GET', '/accounts/{account}', 'administrator'],
        'first_account' => ['GET', '/first-account', ''],
        'sign_in' => ['GET', '/sign-in', ''],
        'sign_out' => ['POST', '/sign-out', ''],
    ];

    public function testEveryRouteIsListed(): void
    {
        $router = static::getContainer()->get(RouterInterface::class);
        self::assertInstanceOf(RouterInterface::class, $router);
        $known = array_filter(array_keys($router->getRouteCollection()->all()), static fn (string $name): bool => !str_starts_with($name, '_'));

        self::assertEqualsCanonicalizing($known, array_keys(self::ROUTES));
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function routes(): iterable
    {
        foreach (self::ROUTES as $name => [$method, $path, $least]) {
            if ('' !== $least) {
                yield $name => [$method, $path, $least];
            }
        }
    }

    #[DataProvider('routes')]
    public function testStrangersAreSentToSignIn(string $method, string $path, string $least): void
    {
        $this->client->request($method, $this->filled($path));
        self::assertResponseRedirects('/sign-in');

        $this->client->request($method, $this->filled($path), [], [], ['HTTP_X_REQUESTED_WITH' => 'fetch']);
        self::assertResponseStatusCodeSame(401);
        self::assertStringContainsString('what you typed is kept', $this->content());
    }

    #[DataProvider('routes')]
    public function testEachRoleGoesAsFarAsItMay(string $method, string $path, string $least): void
    {
        $order = ['reader' => 0, 'steward' => 1, 'administrator' => 2];
        $path = $this->filled($path);
        foreach (Role::cases() as $role) {
            $this->client->loginUser($this->account($role));
            $this->client->request($method, $path);
            $status = $this->client->getResponse()->getStatusCode();
            if ($order[$role->value] < $order[$least]) {
                self::assertSame(403, $status, $role->value);
            } elseif ('POST' === $method) {
                // Without its token a change is refused even to those who may make it. What a reader may ask for changes nothing.
                self::assertContains($status, 'reader' === $least ? [403, 404, 422] : [403, 422], $role->value);
            } else {
                self::assertContains($status, [200, 302, 303, 404], $role->value);
                self::assertTrue(404 !== $status || str_contains($path, '999') || str_contains($path, 'catalog.json'), $path);
            }
        }
    }

    private function filled(string $path): string
    {
        if (!str_contains($path, '{')) {
            return $path;
        }
        $source = $this->source('s'.random_int(0, \PHP_INT_MAX));
        self::apply($source, Made::catalog(Made::table('station')));
        $survey = self::get(Surveys::class)->start($source, null);

        return strtr($path, [
            '{source}' => (string) $source->id(),
            '{connection}' => (string) $source->connection()->id(),
            '{entry}' => (string) self::scalar('SELECT MAX(id) FROM entry'),
            '{field}' => (string) self::scalar('SELECT MAX(id) FROM field'),
            '{survey}' => (string) $survey->id(),
            '{job}' => (string) $survey->job->id(),
            '{account}' => (string) $this->account(Role::Reader, 'X'.random_int(0, \PHP_INT_MAX))->id(),
        ]);
    }

    public function testNothingMayBeLoadedFromElsewhereOrRunInline(): void
    {
        $this->client->request('GET', '/sign-in');
        $policy = (string) $this->client->getResponse()->headers->get('Content-Security-Policy');

        self::assertStringContainsString("default-src 'none'", $policy);
        self::assertStringContainsString("script-src 'self';", $policy);
        self::assertStringContainsString("style-src 'self';", $policy);
        self::assertStringNotContainsString('unsafe', $policy);
        self::assertDoesNotMatchRegularExpression('/<script(?![^>]*\bsrc=)|\sstyle=|\son\w+=/i', $this->content());
    }

    public function testAnAddressThatCannotBeReadIsNoFaultOfFasti(): void
    {
        $twig = self::getContainer()->get('twig');
        self::assertInstanceOf(\Twig\Environment::class, $twig);
        $said = static fn (int $code): string => $twig->render('@Twig/Exception/error.html.twig', ['status_code' => $code]);
        self::assertStringContainsString('Not understood', $said(400));
        self::assertStringNotContainsString('our fault', $said(400));
        self::assertStringContainsString('our fault', $said(500));
    }
}
