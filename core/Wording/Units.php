<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

/**
 * Units of measure by what people and schemas call them: SI (the Brochure, 9th edition), its accepted others, and those of trade and
 * computing. No package of the registry that was at hand knows units, so the table is here.
 */
final class Units
{
    /** symbol | plural | measure | factor | other spellings; a spelling in braces counts only at the end of names of such a measure */
    private const TABLE = <<<'T'
        m|metres|length|1|metre meter meters mtr mtrs {m}
        km|kilometres|length|1000|kilometre kilometer kilometers kms
        cm|centimetres|length|0.01|centimetre centimeter centimeters cms
        mm|millimetres|length|0.001|millimetre millimeter millimeters mms
        µm|micrometres|length|0.000001|um micrometre micrometer micrometers micron microns
        nm|nanometres|length|0.000000001|nanometre nanometer nanometers
        in|inches|length|0.0254|inch {in}
        ft|feet|length|0.3048|foot
        yd|yards|length|0.9144|yard
        mi|miles|length|1609.344|mile
        m²|square metres|area|1|m2 sqm sq_m
        km²|square kilometres|area|1000000|km2 sqkm sq_km
        cm²|square centimetres|area|0.0001|cm2
        ha|hectares|area|10000|hectare
        m³|cubic metres|volume|1|m3 cbm
        l|litres|volume|0.001|litre liter liters ltr {l}
        ml|millilitres|volume|0.000001|millilitre milliliter milliliters
        kg|kilograms|mass|1|kilogram kilogramme kilogrammes kilo kilos kgs
        g|grams|mass|0.001|gram gramme grammes {g}
        mg|milligrams|mass|0.000001|milligram milligramme milligrammes
        µg|micrograms|mass|0.000000001|ug microgram
        t|tonnes|mass|1000|tonne {t}
        lb|pounds|mass|0.45359237|lbs
        oz|ounces|mass|0.028349523|ounce
        s|seconds|time|1|sec secs second {s}
        ms|milliseconds|time|0.001|millis millisecond msec msecs
        µs|microseconds|time|0.000001|us microsecond usec
        min|minutes|time|60|mins minute {min}
        h|hours|time|3600|hr hrs hour {h}
        d|days|time|86400|day {d}
        wk|weeks|time|604800|week wks
        °C|degrees Celsius|temperature|0|degc deg_c celsius {c}
        °F|degrees Fahrenheit|temperature|0|degf deg_f fahrenheit {f}
        K|kelvins|temperature|0|kelvin {k}
        °|degrees|angle|1|deg degs degree
        Pa|pascals|pressure|1|pascal
        hPa|hectopascals|pressure|100|hpa mbar
        kPa|kilopascals|pressure|1000|kpa
        bar|bars|pressure|100000|
        V|volts|voltage|1|volt {v}
        mV|millivolts|voltage|0.001|mv millivolt
        A|amperes|current|1|amp amps ampere {a}
        W|watts|power|1|watt {w}
        kW|kilowatts|power|1000|kw kilowatt
        J|joules|energy|1|joule {j}
        kWh|kilowatt hours|energy|3600000|kwh
        kcal|kilocalories|energy|4184|
        Hz|hertz|frequency|1|hz
        kHz|kilohertz|frequency|1000|khz
        MHz|megahertz|frequency|1000000|mhz
        m/s|metres per second|speed|1|mps m_s ms_1
        km/h|kilometres per hour|speed|0.277777778|kmh kph km_h
        m³/s|cubic metres per second|flow|1|m3s m3_s cumecs
        l/s|litres per second|flow|0.001|lps l_s
        mg/l|milligrams per litre|concentration|1|mgl mg_l
        µg/l|micrograms per litre|concentration|0.001|ugl ug_l
        µS/cm|microsiemens per centimetre|conductivity|1|us_cm uscm
        lx|lux|illuminance|1|lux
        dB|decibels|level|1|db decibel
        NTU|turbidity units|turbidity|1|ntu
        %|per cent|share|0.01|pct percent percentage perc prct
        ‰|per mille|share|0.001|permille
        ppm|parts per million|share|0.000001|
        B|bytes|data|1|byte bytes
        kB|kilobytes|data|1000|kb kilobyte
        MB|megabytes|data|1000000|mb megabyte
        GB|gigabytes|data|1000000000|gb gigabyte
        T;
    /** Words with which a name speaks of a measure, for spellings that mean other things elsewhere: `length_m`, `duration_min`. */
    private const SPEAK = [
        'length' => ['length', 'width', 'height', 'depth', 'distance', 'altitude', 'elevation', 'radius', 'diameter', 'size', 'long', 'wide', 'high', 'deep',
            'level', 'stage', 'thickness', 'range'],
        'volume' => ['volume', 'capacity', 'contents', 'intake', 'rain'],
        'mass' => ['mass', 'weight', 'load', 'dose', 'weighs'],
        'time' => ['duration', 'time', 'delay', 'timeout', 'interval', 'age', 'wait', 'period', 'length', 'fade', 'elapsed', 'lag', 'runtime', 'latency', 'ttl',
            'uptime', 'stay', 'break', 'lead'],
        'temperature' => ['temperature', 'temp'],
        'voltage' => ['voltage', 'volt', 'battery', 'supply'],
        'current' => ['current'],
        'power' => ['power'],
        'energy' => ['energy'],
    ];

    /** @var array<string, array{Unit, bool}>|null spelling in small letters → unit, and whether it needs the name's word */
    private static ?array $known = null;

    /** A unit as somebody wrote it: `km²`, "square kilometres", `kilometre`. */
    public static function named(string $written): ?Unit
    {
        $written = trim($written);
        foreach (self::all() as $unit) {
            if ($unit->symbol === $written) {
                return $unit;
            }
        }

        $folded = mb_strtolower($written);
        $joined = str_replace(' ', '_', $folded);

        return self::known()[$joined][0] ?? self::known()[$folded][0] ?? self::known()[$joined.'s'][0] ?? null;
    }

    /**
     * The unit that a name ends in: ["depth", "cm"].
     *
     * @param list<string> $words in small letters
     *
     * @return array{Unit, int}|null with how many words it takes
     */
    public static function atEnd(array $words): ?array
    {
        $n = \count($words);
        foreach ([2, 1] as $take) {
            if ($n < $take) {
                continue;
            }
            $end = implode('_', \array_slice($words, $n - $take));
            $found = self::known()[$end] ?? self::known()[str_replace('_', '', $end)] ?? null;
            if (null === $found || 1 === $take && 1 === $n) {
                continue;
            }
            [$unit, $needs] = $found;
            if ($n === $take || $needs && [] === array_intersect(\array_slice($words, 0, $n - $take), self::SPEAK[$unit->measure] ?? [])) {
                continue;
            }

            return [$unit, $take];
        }

        return null;
    }

    /** The unit that a sentence gives: "Area drained, in square kilometres". */
    public static function inText(string $text): ?Unit
    {
        // Most texts speak of none: only what stands where a unit may stand is compared with each.
        if (!preg_match_all('/(?:\b(?:in|unit:?)\s+|[\[(]\s*)(?=(.{1,40}))/us', $text, $m)) {
            return null;
        }
        $after = implode("\n", array_map(static fn (string $rest): string => $rest."\n".(preg_replace('/^(?:whole|full) /', '', $rest) ?? ''), $m[1]));
        foreach (self::longestFirst() as $unit) {
            if (!str_contains("\n$after", "\n$unit->plural") && !str_contains("\n$after", "\n$unit->symbol")) {
                continue;
            }
            $said = array_map(static fn (string $form): string => preg_quote($form, '/'), [$unit->plural, $unit->symbol]);
            if (1 === preg_match('/\b(?:in|unit:?)\s+(?:whole |full )?(?:'.$said[0].'\b|'.$said[1].'(?![\w\/²³]))/u', $text)
                || 1 === preg_match('/[\[(]\s*(?:'.implode('|', $said).')\s*[\])]/u', $text)) {
                return $unit;
            }
        }

        return null;
    }

    /** @return list<Unit> “metres per second” begins as “metres” does */
    private static function longestFirst(): array
    {
        static $sorted = [];
        if ([] === $sorted) {
            $sorted = self::all();
            usort($sorted, static fn (Unit $a, Unit $b): int => \strlen($b->plural) <=> \strlen($a->plural));
        }

        /** @var list<Unit> $sorted */
        return $sorted;
    }

    /** @return list<Unit> */
    public static function all(): array
    {
        $units = [];
        foreach (self::known() as [$unit]) {
            $units[$unit->symbol] = $unit;
        }

        return array_values($units);
    }

    /** @return array<string, array{Unit, bool}> */
    private static function known(): array
    {
        if (null === self::$known) {
            self::$known = [];
            foreach (explode("\n", self::TABLE) as $line) {
                [$symbol, $plural, $measure, $factor, $others] = explode('|', trim($line)) + ['', '', '', '', ''];
                $unit = new Unit($symbol, $plural, $measure, (float) $factor);
                $spellings = preg_split('/ /', $others, -1, \PREG_SPLIT_NO_EMPTY) ?: [];
                foreach ([...\in_array('{'.mb_strtolower($symbol).'}', $spellings, true) ? [] : [$symbol], $plural, ...$spellings] as $spelling) {
                    $needs = str_starts_with($spelling, '{');
                    self::$known[mb_strtolower(str_replace(' ', '_', trim($spelling, '{}')))] ??= [$unit, $needs];
                }
            }
        }

        return self::$known;
    }
}
