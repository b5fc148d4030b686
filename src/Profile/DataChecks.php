<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\DataCheck;
use Fasti\Finding\CheckSwitched;
use Fasti\Finding\Findings;
use Fasti\Finding\Noticed;
use Fasti\Register\EntryKnown;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\SourceStore;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** Runs the checks over data when data was looked at. */
final readonly class DataChecks
{
    /** @param iterable<DataCheck> $checks */
    public function __construct(
        #[AutowireIterator('fasti.data_check')]
        private iterable $checks,
        private Profiles $profiles,
        private Findings $findings,
        private RegisterCatalog $catalog,
        private EntryStore $entries,
        private Fields $fields,
        private SourceStore $sources,
    ) {
    }

    #[AsEventListener]
    public function known(EntryKnown $known): void
    {
        $table = $this->catalog->entry($known->entry);
        if (null !== $table) {
            $this->run($known->entry, $table, $this->checks);
        }
    }

    /** A check that runs from now on looks at what is known already. */
    #[AsEventListener]
    public function switched(CheckSwitched $switched): void
    {
        foreach ($this->checks as $check) {
            if ($check->name() === $switched->check) {
                foreach (array_keys($this->sources->all()) as $source) {
                    foreach ($this->entries->ids($source) as $id) {
                        $table = $this->catalog->entry($id);
                        if (null !== $table) {
                            $this->run($id, $table, [$check]);
                        }
                    }
                }
            }
        }
    }

    /** @param iterable<DataCheck> $checks */
    private function run(int $entry, Table $table, iterable $checks): void
    {
        $profiled = $this->profiles->of($entry);
        if (null === $profiled) {
            return;
        }
        $dialect = Dialects::of($this->sources->engine($this->entries->sources([$entry])[$entry] ?? 0));
        $fields = $this->fields->ids([$entry])[$entry] ?? [];
        foreach ($checks as $check) {
            $noticed = [];
            foreach ($check->of($table, $profiled->profile, $dialect) as $finding) {
                $noticed[] = new Noticed($entry, null === $finding->field ? null : $fields[$finding->field] ?? null, $finding->title, $finding->group);
            }
            $this->findings->follow($check, $noticed, [$entry]);
        }
    }
}
