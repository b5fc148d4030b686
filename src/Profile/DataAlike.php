<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Profile\Closeness;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Register\EntryStore;
use Fasti\Source\Source;
use Fasti\Source\Sources;

/**
 * Whether a column that is new holds what one that is gone used to hold: the profile that is kept of the old one is
 * compared with a look at the new one. Only a few columns are looked at, and only where the old one has a profile.
 */
final readonly class DataAlike
{
    private const MOST_LOOKS = 30;

    public function __construct(private EntryStore $entries, private Profiles $profiles, private Sources $sources)
    {
    }

    /** @return \Closure(Table, Column, Table, Column): ?float */
    public function of(Source $source): \Closure
    {
        $looks = 0;
        $profiling = null;
        $fresh = [];

        return function (Table $before, Column $was, Table $after, Column $is) use ($source, &$looks, &$profiling, &$fresh): ?float {
            $entry = $this->entries->at($source->id(), $before->place());
            $old = null === $entry ? null : $this->profiles->of($entry)?->field($was->name);
            if (null === $old) {
                return null;
            }
            $key = $after->place()->key()."\0".$is->name;
            if (!\array_key_exists($key, $fresh)) {
                $fresh[$key] = null;
                if (++$looks > self::MOST_LOOKS) {
                    return null;
                }
                try {
                    $profiling ??= new Profiling($this->sources, $this->sources->target($source));
                    $only = $after->with(columns: [$is], comment: '', uniqueKeys: [], foreignKeys: [], indexes: [], checks: [], triggers: []);
                    $fresh[$key] = $profiling->table($only, [], [], new SilentProgress())->fields[$is->name] ?? null;
                } catch (SourceError) {
                    // The comparison does without; whoever decides sees the other reasons.
                }
            }

            return null === $fresh[$key] ? null : Closeness::of($old, $fresh[$key]);
        };
    }
}
