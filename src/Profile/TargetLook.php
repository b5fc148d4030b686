<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Finding\Checked;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Sources;
use Fasti\Source\Targets;

/** Looks at a target for a command: at its structure, and at its data where that is asked. */
final readonly class TargetLook
{
    public function __construct(private Sources $sources, private Targets $targets)
    {
    }

    /** @throws SourceError also where data is asked of a structure alone */
    public function at(string $target, string $dialect, bool $data): Looked
    {
        $catalog = Targets::kept($target);
        $profiling = null;
        if (null === $catalog) {
            $where = $this->targets->target($target, $dialect);
            $catalog = $this->sources->reader($where)->read(new Choice(), new SilentProgress());
            $profiling = $data ? new Profiling($this->sources, $where) : null;
        }
        if ($data && null === $profiling) {
            throw new SourceError('There is no data here: this is a structure alone.', 'Leave --data away, or name the source itself.');
        }
        $notes = $catalog->notes;
        $profiles = [];
        $last = null;
        foreach ($catalog->tables as $i => $table) {
            if (null === $profiling || !Checked::is($table)) {
                continue;
            }
            try {
                $profiles[$i] = $profiling->table($table, [], [], new SilentProgress());
            } catch (SourceError $e) {
                $last = $e;
                $notes[] = \sprintf('%s was left out: %s', $table->place(), $e->inWords());
            }
        }

        if ([] === $profiles && null !== $last) {
            // Of a script or a catalog there is no data at all: to say that nothing was found in it would be wrong.
            throw $last;
        }

        return new Looked($catalog, $profiles, $notes);
    }
}
