<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Fasti\Account\Account;
use Fasti\Register\Understanding;
use Fasti\Register\Understood;
use Symfony\Bundle\SecurityBundle\Security;

/** What people keep, by names and purposes and by what each kind has within, wherever one searches. */
final readonly class KeptNamed implements Understanding
{
    /** Of each kind. */
    private const MOST = 5;
    private const LEAST = 3;

    public function __construct(private KeptStores $stores, private Security $security)
    {
    }

    public function of(string $query): array
    {
        $user = $this->security->getUser();
        $words = self::folded($query);
        if (mb_strlen($words) < self::LEAST || !$user instanceof Account) {
            return [];
        }
        $found = [];
        foreach ($this->stores->all() as $kind => $store) {
            array_push($found, ...$this->ofKind($store, ucfirst($kind), $user, $words));
        }

        return $found;
    }

    /** A text as it is compared: in small letters, with single blanks. */
    public static function folded(string $text): string
    {
        return trim((string) preg_replace('/[\s_]+/u', ' ', mb_strtolower($text)));
    }

    /**
     * @param KeptStore<Kept> $store
     *
     * @return list<Understood>
     */
    private function ofKind(KeptStore $store, string $kind, Account $user, string $words): array
    {
        $found = [];
        foreach ($store->names($user) as $id => $names) {
            if (str_contains(self::folded($names['name'].' '.$names['purpose']), $words)) {
                $found[] = new Understood($kind.': '.$names['name'], $store->route(), ['id' => $id]);
            }
        }
        foreach (\count($found) < self::MOST ? $store->within($user, $words) : [] as $one) {
            $found[] = new Understood($one->words, $store->route(), ['id' => $one->id, '_fragment' => $one->fragment]);
        }

        return \array_slice($found, 0, self::MOST);
    }
}
