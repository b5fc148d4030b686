<?php

declare(strict_types=1);

namespace Fasti\Demo;

/**
 * Makes the messages of the stations, in three versions of their shape: the second nests the position and gives each reading
 * a unit, the third replaces the battery and speaks of its gateway. A note is there now and then; the signal changes its type.
 */
final class Telemetry
{
    private const SEED = 20263;
    public const MESSAGES = 6000;

    /** Writes telemetry.jsonl and gateways.json into a folder. */
    public static function make(string $folder): void
    {
        mt_srand(self::SEED);
        if (!is_dir($folder)) {
            mkdir($folder, 0755, true);
        }
        $gateways = array_map(
            static fn (int $i): array => [
                'gateway' => \sprintf('GW-%03d', $i), 'site' => ['weir', 'bridge', 'mill', 'ford'][$i % 4].' mast '.$i,
                'installed' => \sprintf('20%02d-%02d-%02d', 15 + $i % 9, 1 + $i % 12, 1 + $i % 28), 'bands' => [868, 0 === $i % 3 ? 2400 : 433],
                'contact_email' => \sprintf('keeper%d@arrowmere.example', $i),
            ],
            range(1, 18),
        );
        file_put_contents($folder.'/gateways.json', json_encode($gateways, \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES));
        $out = fopen($folder.'/telemetry.jsonl', 'w') ?: throw new \RuntimeException('The messages could not be written.');
        for ($i = 0; $i < self::MESSAGES; ++$i) {
            fwrite($out, json_encode(self::message($i), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION)."\n");
        }
        fclose($out);
    }

    /** @return array<string, mixed> */
    private static function message(int $i): array
    {
        $version = match (true) {
            $i < 2000 => 1,
            $i < 4800 => 2,
            default => 3,
        };
        $water = ['ARR', 'MER', 'SAL', 'TIN', 'WIT', 'RUS'][$i % 6];
        $message = [
            'id' => \sprintf('%08x-5a1e-4c3d-8f00-%012x', 4096 + $i, 77 * $i),
            'version' => $version,
            'station' => \sprintf('%s-%02d', $water, 1 + $i % 24),
            'sent_at' => gmdate('Y-m-d\TH:i:s\Z', 1672531200 + 1800 * $i),
        ];
        $readings = [];
        foreach (\array_slice(['LEVEL', 'FLOW', 'TEMP', 'PH'], 0, 1 + $i % 4) as $parameter) {
            $readings[] = [
                'parameter' => $parameter,
                'value' => mt_rand(0, 9999) / 100,
                'flag' => ['G', 'G', 'G', 'S', 'B', 'M'][mt_rand(0, 5)],
            ] + ($version >= 2 ? ['unit' => ['LEVEL' => 'm', 'FLOW' => 'm3/s', 'TEMP' => 'degC', 'PH' => 'pH'][$parameter]] : []);
        }
        if (1 === $version) {
            $message += ['lat' => 52 + mt_rand(0, 9999) / 10000, 'lon' => -2 - mt_rand(0, 9999) / 10000, 'battery' => mt_rand(300, 420) / 100];
        } else {
            $message['position'] = ['lat' => 52 + mt_rand(0, 9999) / 10000, 'lon' => -2 - mt_rand(0, 9999) / 10000, 'height' => mt_rand(4, 280)];
            $message['power'] = ['volts' => mt_rand(300, 420) / 100, 'source' => ['sun', 'mains', 'cell'][mt_rand(0, 2)]];
        }
        if (3 === $version) {
            $message['gateway'] = \sprintf('GW-%03d', 1 + $i % 18);
        }
        // The signal was a number, until some stations began to send it as text.
        $message['signal'] = $version >= 2 && 0 === $i % 9 ? mt_rand(-120, -40).' dBm' : mt_rand(-120, -40);
        if (0 === $i % 7) {
            $message['note'] = ['leaves on the sensor', 'cleaned', 'ice', 'high water'][mt_rand(0, 3)];
        }

        return $message + ['readings' => $readings];
    }
}
