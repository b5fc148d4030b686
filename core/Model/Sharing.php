<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\WhenSet;

/** Where rows of one role belong to several of others, by a link: how they count where an answer is split by those. */
final readonly class Sharing
{
    /**
     * @param string $link   the role whose rows lead to both
     * @param string $of     the role whose rows are shared
     * @param string $weight an expression over the link; '' but for Shared::ByWeight
     */
    public function __construct(
        public string $link,
        public string $of,
        public Shared $how = Shared::Equally,
        #[WhenSet]
        public string $weight = '',
    ) {
    }

    public function inWords(): string
    {
        return \sprintf('A row of %s that has several of %s is %s%s.', $this->of, $this->link, $this->how->inWords(),
            Shared::ByWeight === $this->how ? ', '.$this->weight : '');
    }
}
