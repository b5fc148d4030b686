<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Core\Model\ModelNames;
use Fasti\Register\Understanding;
use Symfony\Bundle\SecurityBundle\Security;

/** Models and their measures, by their names, wherever one searches. */
final readonly class ModelNamed implements Understanding
{
    private const MOST = 5;
    private const LEAST = 3;

    public function __construct(private Models $models, private Security $security)
    {
    }

    public function of(string $query): array
    {
        $user = $this->security->getUser();
        $words = ModelNames::folded($query);
        if (mb_strlen($words) < self::LEAST || !$user instanceof Account) {
            return [];
        }
        $found = [];
        foreach ($this->models->listed($user) as $kept) {
            if (str_contains(ModelNames::folded($kept['name'].' '.$kept['purpose']), $words)) {
                $found[] = ['words' => 'Model: '.$kept['name'], 'route' => 'model', 'parameters' => ['id' => $kept['id']]];
            }
            foreach (array_filter($kept['brief']->measures, static fn (string $one): bool => str_contains(ModelNames::folded($one), $words)) as $measure) {
                $found[] = [
                    'words' => 'Measure: '.$measure.' of '.$kept['name'],
                    'route' => 'model',
                    'parameters' => ['id' => $kept['id'], '_fragment' => 'm-'.Anchors::of($measure)],
                ];
            }
        }

        return \array_slice($found, 0, self::MOST);
    }
}
