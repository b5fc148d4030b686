<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

/** The codes of ISO 3166-1 (countries), ISO 4217 (currencies) and ISO 639-1 (languages). */
final class Iso
{
    private const COUNTRIES = 'AD AND AE ARE AF AFG AG ATG AI AIA AL ALB AM ARM AO AGO AQ ATA AR ARG AS ASM AT AUT AU AUS AW ABW AX ALA AZ AZE BA BIH BB '
        .'BRB BD BGD BE BEL BF BFA BG BGR BH BHR BI BDI BJ BEN BL BLM BM BMU BN BRN BO BOL BQ BES BR BRA BS BHS BT BTN BV BVT BW BWA BY BLR BZ BLZ CA CAN '
        .'CC CCK CD COD CF CAF CG COG CH CHE CI CIV CK COK CL CHL CM CMR CN CHN CO COL CR CRI CU CUB CV CPV CW CUW CX CXR CY CYP CZ CZE DE DEU DJ DJI DK '
        .'DNK DM DMA DO DOM DZ DZA EC ECU EE EST EG EGY EH ESH ER ERI ES ESP ET ETH FI FIN FJ FJI FK FLK FM FSM FO FRO FR FRA GA GAB GB GBR GD GRD GE GEO '
        .'GF GUF GG GGY GH GHA GI GIB GL GRL GM GMB GN GIN GP GLP GQ GNQ GR GRC GS SGS GT GTM GU GUM GW GNB GY GUY HK HKG HM HMD HN HND HR HRV HT HTI HU '
        .'HUN ID IDN IE IRL IL ISR IM IMN IN IND IO IOT IQ IRQ IR IRN IS ISL IT ITA JE JEY JM JAM JO JOR JP JPN KE KEN KG KGZ KH KHM KI KIR KM COM KN KNA '
        .'KP PRK KR KOR KW KWT KY CYM KZ KAZ LA LAO LB LBN LC LCA LI LIE LK LKA LR LBR LS LSO LT LTU LU LUX LV LVA LY LBY MA MAR MC MCO MD MDA ME MNE MF '
        .'MAF MG MDG MH MHL MK MKD ML MLI MM MMR MN MNG MO MAC MP MNP MQ MTQ MR MRT MS MSR MT MLT MU MUS MV MDV MW MWI MX MEX MY MYS MZ MOZ NA NAM NC NCL '
        .'NE NER NF NFK NG NGA NI NIC NL NLD NO NOR NP NPL NR NRU NU NIU NZ NZL OM OMN PA PAN PE PER PF PYF PG PNG PH PHL PK PAK PL POL PM SPM PN PCN PR '
        .'PRI PS PSE PT PRT PW PLW PY PRY QA QAT RE REU RO ROU RS SRB RU RUS RW RWA SA SAU SB SLB SC SYC SD SDN SE SWE SG SGP SH SHN SI SVN SJ SJM SK SVK '
        .'SL SLE SM SMR SN SEN SO SOM SR SUR SS SSD ST STP SV SLV SX SXM SY SYR SZ SWZ TC TCA TD TCD TF ATF TG TGO TH THA TJ TJK TK TKL TL TLS TM TKM TN '
        .'TUN TO TON TR TUR TT TTO TV TUV TW TWN TZ TZA UA UKR UG UGA UM UMI US USA UY URY UZ UZB VA VAT VC VCT VE VEN VG VGB VI VIR VN VNM VU VUT WF WLF '
        .'WS WSM YE YEM YT MYT ZA ZAF ZM ZMB ZW ZWE';
    private const CURRENCIES = 'AED AFN ALL AMD ANG AOA ARS AUD AWG AZN BAM BBD BDT BGN BHD BIF BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CLP CNY '
        .'COP CRC CUP CVE CZK DJF DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GNF GTQ GYD HKD HNL HTG HUF IDR ILS INR IQD IRR ISK JMD JOD JPY '
        .'KES KGS KHR KMF KPW KRW KWD KYD KZT LAK LBP LKR LRD LSL LYD MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD OMR '
        .'PAB PEN PGK PHP PKR PLN PYG QAR RON RSD RUB RWF SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TND TOP TRY TTD TWD TZS '
        .'UAH UGX USD UYU UZS VED VES VND VUV WST XAF XCD XOF XPF YER ZAR ZMW ZWL';
    private const LANGUAGES = 'aa ab ae af ak am an ar as av ay az ba be bg bi bm bn bo br bs ca ce ch co cr cs cu cv cy da de dv dz ee el en eo es et eu '
        .'fa ff fi fj fo fr fy ga gd gl gn gu gv ha he hi ho hr ht hu hy hz ia id ie ig ii ik io is it iu ja jv ka kg ki kj kk kl km kn ko kr ks ku kv kw '
        .'ky la lb lg li ln lo lt lu lv mg mh mi mk ml mn mr ms mt my na nb nd ne ng nl nn no nr nv ny oc oj om or os pa pi pl ps pt qu rm rn ro ru rw sa '
        .'sc sd se sg si sk sl sm sn so sq sr ss st su sv sw ta te tg th ti tk tl tn to tr ts tt tw ty ug uk ur uz ve vi vo wa wo xh yi yo za zh zu';

    /** @var array<string, array<string, int>> */
    private static array $sets = [];

    public static function isCountry(string $code): bool
    {
        return isset(self::set(self::COUNTRIES)[strtoupper($code)]);
    }

    public static function isCurrency(string $code): bool
    {
        return isset(self::set(self::CURRENCIES)[strtoupper($code)]);
    }

    public static function isLanguage(string $code): bool
    {
        return isset(self::set(self::LANGUAGES)[strtolower(substr($code, 0, 2))]) && 1 === preg_match('/^[a-zA-Z]{2}(?:[-_][A-Za-z]{2})?$/', $code);
    }

    /** @return array<string, int> */
    private static function set(string $codes): array
    {
        return self::$sets[$codes] ??= array_flip(explode(' ', $codes));
    }

    /** @return list<string> codes of two and of three letters in turn */
    public static function countries(): array
    {
        return explode(' ', self::COUNTRIES);
    }

    /** @return list<string> */
    public static function currencies(): array
    {
        return explode(' ', self::CURRENCIES);
    }

    /** @return list<string> */
    public static function languages(): array
    {
        return explode(' ', self::LANGUAGES);
    }
}
