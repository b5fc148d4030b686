<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Join\NameWords;

/**
 * What short forms in names stand for: those that a register has on its list, those that were learned from it, and those that most
 * schemas use.
 */
final readonly class Abbreviations
{
    private const COMMON = [
        'no' => 'number', 'nr' => 'number', 'num' => 'number', 'nbr' => 'number', 'qty' => 'quantity', 'amt' => 'amount', 'desc' => 'description',
        'descr' => 'description', 'addr' => 'address', 'adr' => 'address', 'ref' => 'reference', 'dept' => 'department', 'cust' => 'customer',
        'emp' => 'employee', 'tel' => 'telephone', 'dob' => 'date of birth', 'cd' => 'code', 'pct' => 'per cent', 'avg' => 'average', 'max' => 'greatest',
        'min' => 'least', 'std' => 'standard', 'cfg' => 'configuration', 'yr' => 'year', 'mth' => 'month', 'wk' => 'week', 'hr' => 'hour', 'lat' => 'latitude',
        'lon' => 'longitude', 'lng' => 'longitude', 'mgr' => 'manager', 'acct' => 'account', 'cat' => 'category', 'img' => 'image', 'msg' => 'message',
        'pwd' => 'password', 'usr' => 'user', 'grp' => 'group', 'lvl' => 'level', 'pos' => 'position', 'seq' => 'sequence', 'src' => 'source',
        'tgt' => 'target', 'val' => 'value', 'ver' => 'version', 'cnt' => 'count', 'bal' => 'balance', 'inv' => 'invoice', 'prod' => 'product',
        'fname' => 'first name', 'lname' => 'last name', 'prev' => 'previous', 'curr' => 'current', 'auth' => 'authorisation', 'loc' => 'location',
        'lang' => 'language', 'ctry' => 'country', 'zip' => 'postcode', 'org' => 'organisation', 'temp' => 'temperature', 'info' => 'information',
        'doc' => 'document', 'docs' => 'documents', 'attr' => 'attribute', 'stat' => 'status', 'sts' => 'status', 'spec' => 'specification',
        'util' => 'utilisation', 'mgmt' => 'management', 'dest' => 'destination', 'dist' => 'distance', 'freq' => 'frequency', 'hist' => 'history',
        'mst' => 'master', 'mstr' => 'master', 'nm' => 'name', 'obs' => 'observation', 'orig' => 'original', 'pmt' => 'payment', 'rcpt' => 'receipt',
        'rcvd' => 'received', 'req' => 'request', 'rsn' => 'reason', 'sched' => 'schedule', 'ship' => 'shipping', 'svc' => 'service', 'trx' => 'transaction',
        'txn' => 'transaction', 'typ' => 'type', 'upd' => 'updated', 'whse' => 'warehouse', 'xfer' => 'transfer', 'dt' => 'date', 'ts' => 'time',
        'btn' => 'button', 'ext' => 'extension', 'ph' => 'phone', 'biz' => 'business', 'cmt' => 'comment', 'dflt' => 'default', 'exp' => 'expiry',
        'eff' => 'effective', 'sfx' => 'suffix', 'pfx' => 'prefix', 'sex' => 'sex', 'wt' => 'weight', 'ht' => 'height',
        'lft' => 'left', 'rgt' => 'right', 'tot' => 'total', 'ttl' => 'total', 'vol' => 'volume', 'vat' => 'VAT', 'url' => 'web address', 'uri' => 'URI',
        'uuid' => 'UUID', 'guid' => 'GUID', 'iban' => 'IBAN', 'isbn' => 'ISBN', 'ip' => 'IP address', 'id' => 'ID', 'json' => 'JSON', 'xml' => 'XML',
        'html' => 'HTML', 'pdf' => 'PDF', 'gps' => 'GPS', 'utc' => 'UTC', 'eta' => 'ETA', 'sku' => 'SKU', 'ssn' => 'SSN', 'crs' => 'CRS',
    ];

    /** @param array<string, string> $known short → long, in small letters: what the register says or was learned */
    public function __construct(private array $known = [])
    {
    }

    /**
     * What a word of a name stands for.
     *
     * @return array{string, string} the words; and where that is from: '' the word itself, `list` the register, `common` what most schemas use
     */
    public function long(string $word): array
    {
        return match (true) {
            isset($this->known[$word]) => [$this->known[$word], 'list'],
            isset(self::COMMON[$word]) => [self::COMMON[$word], 'common'],
            default => [$word, ''],
        };
    }

    /** @return array<string, string> */
    public function known(): array
    {
        return $this->known;
    }

    /**
     * Short forms that a register shows by itself: where `stn_ref` leads to the table `station`, and where a comment on `cond_us` speaks
     * of conductivity. Each has to be a short form of the word it stands for (letters in their order), and of no other as well.
     *
     * @return list<Abbreviation> the surest first
     */
    public static function learned(Material $material): array
    {
        $found = [];
        $words = self::words($material);
        foreach ($material->tables as $i => $table) {
            foreach ($material->leads[$i] ?? [] as $lead) {
                $target = NameWords::singular(NameWords::of($material->tables[$lead->to]->name));
                foreach (1 === \count($lead->pairs) ? NameWords::of($lead->pairs[0][0]) : [] as $word) {
                    self::note($found, $words, $word, $target, $lead->certainty * 0.95, \sprintf(
                        '%s.%s leads to %s', $table->name, $lead->pairs[0][0], $material->tables[$lead->to]->name,
                    ));
                }
            }
            $own = NameWords::singular(NameWords::of($table->name));
            foreach ($table->columns as $column) {
                $parts = NameWords::of($column->name);
                $said = mb_strlen($column->comment) > 200 ? [] : NameWords::singular(NameWords::of($column->comment));
                foreach ($parts as $at => $word) {
                    if ([] !== $said) {
                        self::note($found, $words, $word, $said, 0.7, \sprintf('the database says of %s.%s: “%s”', $table->name, $column->name,
                            $column->comment));
                    }
                    if (0 === $at && \count($parts) > 1) {
                        self::note($found, $words, $word, $own, 0.6, \sprintf('fields of %s begin with it', $table->name));
                    }
                }
            }
        }

        return self::chosen($found);
    }

    /**
     * @param array<string, array<string, array{float, string, int}>> $found short → long → doubt left, reason, times
     * @param array<string, bool>                                     $words of all names → whether a table is called so
     * @param list<string>                                            $longer
     */
    private static function note(array &$found, array $words, string $short, array $longer, float $weight, string $because): void
    {
        $length = \strlen($short);
        if ($length < 2 || $length > 6 || isset(self::COMMON[$short]) || NameWords::isKeyEnding($short) || ($words[$short] ?? false)) {
            return;
        }
        foreach ($longer as $long) {
            // `chrominfo` is put together of two words.
            $together = str_starts_with($long, $short) && (isset($words[substr($long, $length)]) || isset(self::COMMON[substr($long, $length)]));
            if (\strlen($long) >= $length + 2 && !$together && NameWords::isShort($short, $long)) {
                [$doubt, $reason, $times] = $found[$short][$long] ?? [1.0, $because, 0];
                $found[$short][$long] = [$doubt * (1 - $weight), $reason, $times + 1];
            }
        }
    }

    /** @return array<string, bool> words of all names, of three letters and more → whether a table is called so and no more */
    private static function words(Material $material): array
    {
        $all = [];
        foreach ($material->tables as $table) {
            $words = NameWords::singular(NameWords::of($table->name));
            foreach ([...$words, ...array_merge([], ...array_map(static fn ($column): array => NameWords::of($column->name), $table->columns))] as $word) {
                if (\strlen($word) > 3) {
                    $all[$word] ??= false;
                }
            }
            if (1 === \count($words)) {
                $all[$words[0]] = true;
            }
        }

        return $all;
    }

    /**
     * @param array<string, array<string, array{float, string, int}>> $found
     *
     * @return list<Abbreviation>
     */
    private static function chosen(array $found): array
    {
        $chosen = [];
        foreach ($found as $short => $longer) {
            uasort($longer, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
            $long = (string) array_key_first($longer);
            [$doubt, $because, $times] = $longer[$long];
            $second = array_values($longer)[1][0] ?? 1.0;
            if ($doubt < 0.5 && $second > 2 * $doubt) {
                $chosen[] = new Abbreviation((string) $short, $long, min(0.97, 1 - $doubt), $because, $times);
            }
        }
        usort($chosen, static fn (Abbreviation $a, Abbreviation $b): int => [$b->confidence, $a->short] <=> [$a->confidence, $b->short]);

        return $chosen;
    }
}
