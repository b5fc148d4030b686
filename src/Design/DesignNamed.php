<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Account;
use Fasti\Register\Understanding;
use Symfony\Bundle\SecurityBundle\Security;

/** Designs and their things, by their names, wherever one searches. */
final readonly class DesignNamed implements Understanding
{
    private const MOST = 5;
    private const LEAST = 3;

    public function __construct(private Designs $designs, private Security $security)
    {
    }

    public function of(string $query): array
    {
        $user = $this->security->getUser();
        $words = mb_strtolower(trim($query));
        if (mb_strlen($words) < self::LEAST || !$user instanceof Account) {
            return [];
        }
        $found = [];
        foreach ($this->designs->listed($user, $words) as $kept) {
            if (str_contains(mb_strtolower($kept['name'].' '.$kept['purpose']), $words)) {
                $found[] = ['words' => 'Design: '.$kept['name'], 'route' => 'design_read', 'parameters' => ['id' => $kept['id']]];
            }
            foreach ($kept['brief']->things as [$thing]) {
                if (\count($found) < self::MOST && str_contains(mb_strtolower($thing), $words)) {
                    $found[] = [
                        'words' => 'Thing: '.$thing.' of '.$kept['name'],
                        'route' => 'design_read',
                        'parameters' => ['id' => $kept['id'], '_fragment' => Reading::anchor($thing)],
                    ];
                }
            }
        }

        return \array_slice($found, 0, self::MOST);
    }
}
