<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Profile\SourceProfiled;
use Fasti\Register\RegisterFollowed;
use Fasti\Work\Jobs;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** What of joins follows when a source was surveyed, and when its data was looked at. */
final readonly class JoinsFollow
{
    public function __construct(private JoinFinder $finder, private Jobs $jobs, private JoinsJob $kind)
    {
    }

    /** Kinds follow from the structure; nothing is asked of the data. */
    #[AsEventListener]
    public function followed(RegisterFollowed $followed): void
    {
        $this->finder->refresh($followed->source);
    }

    /** The rows at each end are counted when profiles are taken. */
    #[AsEventListener]
    public function profiled(SourceProfiled $profiled): void
    {
        $this->jobs->start($this->kind, 'joins '.$profiled->source, ['source' => $profiled->source], null);
    }
}
