<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Fasti\Account\Act\Act;
use Fasti\Account\Role;
use Fasti\Account\Roles;
use Fasti\Survey\Surveys;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Routing\RouterInterface;

/** Who may go where: every route of the application is here, and a new one fails the test until it is. */
final class AccessTest extends AppTestCase
{
    /** route → [method, path, the acts that it needs] */
    private const ROUTES = [
        'home' => ['GET', '/', 'read'],
        'register' => ['GET', '/register', 'read'],
        'entry' => ['GET', '/register/{entry}', 'read'],
        'register_index' => ['GET', '/register/index/{source}', 'read'],
        'entry_history' => ['GET', '/register/{entry}/history', 'read'],
        'text_save' => ['POST', '/texts', 'describe'],
        'change_take_back' => ['POST', '/texts/changes/1/take-back', 'describe'],
        'desk' => ['GET', '/desk', 'describe'],
        'desk_next' => ['GET', '/desk/next', 'describe'],
        'desk_later' => ['POST', '/desk/later', 'describe'],
        'draft_take' => ['POST', '/drafts/take', 'describe'],
        'draft_dismiss' => ['POST', '/drafts/dismiss', 'describe'],
        'draft_elsewhere' => ['POST', '/drafts/elsewhere/999', 'describe'],
        'takings' => ['GET', '/drafts/takings', 'read'],
        'taking_back' => ['POST', '/drafts/takings/999/back', 'describe'],
        'short_forms' => ['GET', '/register/short-forms', 'read'],
        'short_form_say' => ['POST', '/register/short-forms', 'describe'],
        'code_lists' => ['GET', '/register/code-lists', 'read'],
        'code_list_make' => ['POST', '/register/code-lists', 'describe'],
        'code_list' => ['GET', '/register/code-lists/999', 'read'],
        'code_list_history' => ['GET', '/register/code-lists/999/history', 'read'],
        'code_list_standard' => ['GET', '/register/code-lists/standard/currencies', 'read'],
        'code_list_add' => ['POST', '/register/code-lists/999/codes', 'describe'],
        'code_list_of' => ['POST', '/register/code-lists/of/999', 'describe'],
        'code_out' => ['POST', '/register/code-lists/codes/999/out', 'describe'],
        'terms' => ['GET', '/register/glossary', 'read'],
        'term' => ['GET', '/register/glossary/999', 'read'],
        'term_history' => ['GET', '/register/glossary/999/history', 'read'],
        'term_make' => ['POST', '/register/glossary', 'describe'],
        'checks' => ['GET', '/register/findings/checks', 'read'],
        'check_set' => ['POST', '/register/findings/checks/constant', 'decide'],
        'findings_aside' => ['POST', '/register/findings/aside', 'decide'],
        'findings_again' => ['POST', '/register/findings/again', 'describe'],
        'finding_mend' => ['POST', '/register/findings/999/mend', 'describe'],
        'findings' => ['GET', '/register/findings', 'read'],
        'finding_aside' => ['POST', '/register/findings/999/aside', 'decide'],
        'lineage_field' => ['GET', '/register/fields/{field}/lineage', 'read'],
        'lineage_entry' => ['GET', '/register/{entry}/lineage', 'read'],
        'queries' => ['GET', '/register/queries', 'read'],
        'query_read' => ['POST', '/register/queries/read', 'read'],
        'query_keep' => ['POST', '/register/queries', 'describe'],
        'query' => ['GET', '/register/queries/999', 'read'],
        'joins' => ['GET', '/register/joins', 'read'],
        'join' => ['GET', '/register/joins/999', 'read'],
        'joins_look' => ['POST', '/register/joins/look', 'ask'],
        'join_decide' => ['POST', '/register/joins/999/decide', 'describe'],
        'joins_take_look' => ['GET', '/register/joins/take-all?least=0.9', 'describe'],
        'joins_take_all' => ['POST', '/register/joins/take-all', 'describe'],
        'joins_take_back' => ['POST', '/register/joins/take-back', 'describe'],
        'join_state' => ['GET', '/register/{entry}/join', 'describe'],
        'keys' => ['GET', '/register/keys', 'read'],
        'loops' => ['GET', '/register/loops', 'read'],
        'loops_count' => ['POST', '/register/loops/count', 'ask'],
        'areas' => ['GET', '/register/areas', 'read'],
        'areas_put' => ['POST', '/register/areas', 'describe'],
        'route' => ['GET', '/register/route', 'read'],
        'route_count' => ['POST', '/register/route/count', 'ask'],
        'models' => ['GET', '/models', 'read'],
        'model_new' => ['GET', '/models/new', 'describe'],
        'model_make' => ['POST', '/models', 'describe'],
        'model' => ['GET', '/models/999', 'read'],
        'model_json' => ['GET', '/models/999.json', 'read'],
        'model_matrix' => ['GET', '/models/999/matrix', 'read'],
        'model_checks' => ['GET', '/models/999/checks', 'read'],
        'model_look' => ['POST', '/models/999/look', 'describe, ask'],
        'model_lineage' => ['GET', '/models/999/lineage', 'read'],
        'model_history' => ['GET', '/models/999/history', 'read'],
        'model_form' => ['GET', '/models/999/form', 'describe'],
        'model_measure' => ['POST', '/models/999/measures', 'describe'],
        'model_attribute' => ['POST', '/models/999/attributes', 'describe'],
        'model_accept' => ['POST', '/models/999/accept', 'decide'],
        'model_role' => ['POST', '/models/999/roles', 'describe'],
        'model_sharing' => ['POST', '/models/999/sharings', 'describe'],
        'model_take' => ['POST', '/models/999/take', 'describe'],
        'model_join' => ['POST', '/models/999/joins', 'describe'],
        'model_route' => ['POST', '/models/999/routes', 'describe'],
        'model_hierarchies' => ['GET', '/models/999/hierarchies', 'describe, ask'],
        'model_hierarchy' => ['POST', '/models/999/hierarchies', 'describe'],
        'model_formula' => ['GET', '/models/999/formula', 'describe'],
        'model_repoint' => ['GET', '/models/999/repoint', 'describe, ask'],
        'model_repoint_compare' => ['POST', '/models/999/repoint', 'describe, ask'],
        'model_repoint_switch' => ['POST', '/models/999/repoint/switch', 'describe, ask'],
        'model_settings' => ['POST', '/models/999/settings', 'describe'],
        'model_trial' => ['GET', '/models/999/trial', 'read'],
        'model_plan' => ['GET', '/models/999/trial/plan', 'read'],
        'model_answer' => ['POST', '/models/999/trial/answer', 'ask models'],
        'model_cancel' => ['POST', '/models/999/trial/cancel', 'ask models'],
        'model_trials' => ['GET', '/models/999/trials', 'read'],
        'model_trial_keep' => ['POST', '/models/999/trials', 'describe'],
        'model_trial_say' => ['POST', '/models/999/trials/999', 'describe'],
        'designs' => ['GET', '/designs', 'read'],
        'outline_grammar' => ['GET', '/designs/lines', 'read'],
        'design_new' => ['GET', '/designs/new', 'describe'],
        'design_make' => ['POST', '/designs', 'describe'],
        'design' => ['GET', '/designs/999', 'read'],
        'design_read' => ['GET', '/designs/999/read', 'read'],
        'design_settings' => ['POST', '/designs/999/settings', 'describe'],
        'design_history' => ['GET', '/designs/999/history', 'read'],
        'design_outline' => ['GET', '/designs/999.outline', 'read'],
        'design_check' => ['POST', '/designs/999/check', 'read'],
        'design_about' => ['POST', '/designs/999/about', 'read'],
        'design_edit' => ['POST', '/designs/999/edit', 'describe'],
        'design_format' => ['POST', '/designs/999/format', 'describe'],
        'design_complete' => ['POST', '/designs/999/complete', 'read'],
        'design_preview' => ['POST', '/designs/999/preview', 'read'],
        'design_merge' => ['POST', '/designs/999/merge', 'describe'],
        'design_places' => ['POST', '/designs/999/places', 'describe'],
        'design_script' => ['GET', '/designs/999/script', 'read'],
        'design_run' => ['POST', '/designs/999/run', 'describe'],
        'design_sql' => ['GET', '/designs/999.sql', 'read'],
        'design_json' => ['GET', '/designs/999.json', 'read'],
        'design_changes' => ['GET', '/designs/999/changes', 'read'],
        'design_changes_sql' => ['GET', '/designs/999/changes.sql', 'read'],
        'design_fates' => ['POST', '/designs/999/changes/fates', 'describe'],
        'design_count' => ['POST', '/designs/999/changes/count', 'describe, ask'],
        'design_rehearse' => ['POST', '/designs/999/changes', 'describe'],
        'search' => ['GET', '/search?q=id', 'read'],
        'sources' => ['GET', '/sources', 'read'],
        'source' => ['GET', '/sources/{source}', 'read'],
        'source_new' => ['GET', '/sources/new', 'survey'],
        'source_edit' => ['GET', '/sources/{source}/connection', 'survey'],
        'source_test' => ['POST', '/sources/test', 'survey'],
        'connection_new' => ['GET', '/sources/{source}/connections/new', 'survey'],
        'connection_edit' => ['GET', '/sources/{source}/connections/{connection}', 'survey'],
        'connection_ask' => ['POST', '/sources/{source}/connections/{connection}/use', 'survey'],
        'source_look' => ['POST', '/sources/{source}/look', 'survey'],
        'source_choose' => ['POST', '/sources/{source}/choice', 'survey'],
        'source_choice' => ['GET', '/sources/{source}/choice', 'survey'],
        'survey_start' => ['POST', '/sources/{source}/survey', 'survey'],
        'survey_start_now' => ['POST', '/sources/{source}/choice/survey', 'survey'],
        'survey' => ['GET', '/surveys/{survey}', 'read'],
        'survey_catalog' => ['GET', '/surveys/{survey}/catalog.json', 'read'],
        'survey_report' => ['GET', '/surveys/{survey}/report.txt', 'read'],
        'survey_decide' => ['POST', '/surveys/{survey}/decide', 'decide'],
        'survey_compare' => ['GET', '/sources/{source}/compare', 'read'],
        'source_sheet' => ['GET', '/sources/sheets/oracle/columns.sql', 'read'],
        'collection_plan' => ['GET', '/sources/{source}/plan', 'describe'],
        'entry_schema' => ['GET', '/register/999/schema', 'read'],
        'entry_schema_file' => ['GET', '/register/999/schema.json', 'read'],
        'breaking_sql' => ['GET', '/register/fields/999/breaking.sql', 'read'],
        'profile_start' => ['POST', '/sources/{source}/profile', 'ask'],
        'profile_run' => ['GET', '/profiles/999', 'read'],
        'job' => ['GET', '/jobs/{job}', 'read'],
        'job_state' => ['GET', '/jobs/{job}/state', 'read'],
        'job_ask' => ['POST', '/jobs/{job}/cancel', 'survey'],
        'demo_advance' => ['POST', '/demo/advance', '?'],
        'diagrams' => ['GET', '/diagrams', 'read'],
        'diagram_new' => ['GET', '/diagrams/new', 'read'],
        'diagram_make' => ['POST', '/diagrams', 'describe'],
        'diagram' => ['GET', '/diagrams/999', 'read'],
        'diagram_history' => ['GET', '/diagrams/999/history', 'read'],
        'diagram_follow' => ['POST', '/diagrams/999/follow', 'describe'],
        'diagram_lead' => ['POST', '/diagrams/lead', 'read'],
        'diagram_changes' => ['POST', '/diagrams/999/changes', 'describe'],
        'diagram_news' => ['GET', '/diagrams/999/changes', 'read'],
        'diagram_arrange' => ['GET', '/diagrams/999/arrange', 'describe'],
        'diagram_about' => ['GET', '/diagrams/margin/about/999', 'read'],
        'diagram_join' => ['GET', '/diagrams/margin/join/999', 'read'],
        'diagram_tablet' => ['GET', '/diagrams/margin/tablet/{entry}', 'read'],
        'diagram_fields' => ['GET', '/diagrams/margin/fields/{entry}', 'read'],
        'diagram_leads' => ['GET', '/diagrams/margin/leads/{entry}', 'read'],
        'diagram_add' => ['GET', '/diagrams/margin/add', 'read'],
        'diagram_query' => ['GET', '/diagrams/margin/query', 'read'],
        'diagram_map' => ['GET', '/diagrams/map/{source}', 'read'],
        'diagram_region' => ['POST', '/diagrams/map/region', 'read'],
        'diagram_source_keep' => ['POST', '/diagrams/sources/{source}/keep', 'describe'],
        'diagram_entry_keep' => ['POST', '/diagrams/entries/{entry}/keep', 'describe'],
        'diagram_source' => ['GET', '/diagrams/sources/{source}', 'read'],
        'diagram_entry' => ['GET', '/diagrams/entries/{entry}', 'read'],
        'editions' => ['GET', '/editions', 'read'],
        'edition_make' => ['POST', '/editions', 'publish'],
        'edition_zip' => ['GET', '/editions/999.zip', 'read'],
        'edition' => ['GET', '/editions/999/index.html', 'read'],
        'accounts' => ['GET', '/accounts', 'administer'],
        'account_new' => ['GET', '/accounts/new', 'administer'],
        'kept_back' => ['POST', '/kept/model/999/back', 'describe'],
        'role_new' => ['GET', '/accounts/roles', 'administer'],
        'role_edit' => ['GET', '/accounts/roles/{role}', 'administer'],
        'role_away' => ['POST', '/accounts/roles/999/away', 'administer'],
        'account_edit' => ['GET', '/accounts/{account}', 'administer'],
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
        foreach (self::ROUTES as $name => [$method, $path, $needs]) {
            if ('' !== $needs) {
                yield $name => [$method, $path, $needs];
            }
        }
    }

    #[DataProvider('routes')]
    public function testStrangersAreSentToSignIn(string $method, string $path, string $needs): void
    {
        $this->client->request($method, $this->filled($path));
        self::assertResponseRedirects('/sign-in');

        $this->client->request($method, $this->filled($path), [], [], ['HTTP_X_REQUESTED_WITH' => 'fetch']);
        self::assertResponseStatusCodeSame(401);
        self::assertStringContainsString('what you typed is kept', $this->content());
    }

    #[DataProvider('routes')]
    public function testWhoMayDoWhatARouteDoesGetsThereAndNobodyElse(string $method, string $path, string $needs): void
    {
        $path = $this->filled($path);
        $acts = explode(', ', $needs);
        foreach (array_diff($acts, [Act::READ]) as $missing) {
            $this->client->loginUser($this->account($this->roleOf(array_diff(array_keys(Act::WORDS), [$missing]))));
            $this->client->request($method, $path);
            self::assertSame(403, $this->client->getResponse()->getStatusCode(), "without the right to $missing");
        }
        $this->client->loginUser($this->account($this->roleOf($acts)));
        $this->client->request($method, $path);
        $status = $this->client->getResponse()->getStatusCode();
        if ('POST' === $method) {
            // Without its token a change is refused even to those who may make it. What everybody may ask for changes nothing.
            self::assertContains($status, [Act::READ] === $acts ? [403, 404, 422] : [403, 422]);
        } else {
            self::assertContains($status, [200, 302, 303, 404]);
            self::assertTrue(404 !== $status || str_contains($path, '999') || str_contains($path, 'catalog.json'), $path);
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
            '{account}' => (string) $this->account(Role::READER, 'X'.random_int(0, \PHP_INT_MAX))->id(),
            '{role}' => (string) self::get(Roles::class)->named(Role::READER)?->id(),
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
