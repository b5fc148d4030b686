<?php

declare(strict_types=1);

// Writes the code lists that ship with the application, their labels as ICU has them in English. Run by hand when a standard changes.

namespace Fasti\Core\Value;

require __DIR__.'/../../../vendor/autoload.php';

$write = static function (string $file, string $name, string $meaning, array $codes): void {
    file_put_contents(
        __DIR__.'/'.$file.'.json',
        json_encode(['name' => $name, 'meaning' => $meaning, 'codes' => $codes],
            \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_FORCE_OBJECT | \JSON_THROW_ON_ERROR)."\n",
    );
};
$countries = $three = $currencies = $languages = [];
foreach (array_chunk(Iso::countries(), 2) as [$code, $long]) {
    $label = (string) \Locale::getDisplayRegion('-'.$code, 'en');
    $countries[$code] = $label;
    $three[$long] = $label;
}
$bundle = \ResourceBundle::create('en', 'ICUDATA-curr');
foreach (Iso::currencies() as $code) {
    $of = $bundle?->get('Currencies');
    $of = $of instanceof \ResourceBundle ? $of->get($code) : null;
    $label = $of instanceof \ResourceBundle ? $of->get(1) : null;
    $currencies[$code] = \is_string($label) ? $label : $code;
}
foreach (Iso::languages() as $code) {
    $languages[$code] = (string) \Locale::getDisplayLanguage($code, 'en');
}
ksort($countries);
ksort($three);
$write('countries-two', 'countries, two letters', 'Countries and territories by ISO 3166-1, alpha-2.', $countries);
$write('countries-three', 'countries, three letters', 'Countries and territories by ISO 3166-1, alpha-3.', $three);
$write('currencies', 'currencies', 'Currencies by ISO 4217.', $currencies);
$write('languages', 'languages', 'Languages by ISO 639-1, two letters.', $languages);
$write('sexes', 'sexes', 'Human sexes by ISO/IEC 5218.', ['0' => 'not known', '1' => 'male', '2' => 'female', '9' => 'not applicable']);
$write('weekdays', 'weekdays', 'Days of the week by ISO 8601, Monday first.', array_combine(range(1, 7), ['Monday', 'Tuesday', 'Wednesday', 'Thursday',
    'Friday', 'Saturday', 'Sunday']));
$write('months', 'months', 'Months of the year.', array_combine(range(1, 12), ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August',
    'September', 'October', 'November', 'December']));
$write('yes-no', 'yes or no, one letter', 'An answer in one letter.', ['Y' => 'yes', 'N' => 'no']);
