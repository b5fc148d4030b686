<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** What speaks for a join or against it. How much each counts is in weights.json, fitted by bench/fit.php. */
final class Feature
{
    public const ANY = 'any';
    /** With the number of NameMatch. */
    public const HOW = 'how';
    public const SHARING = 'sharing';
    /** The part of the field's words that name the table, and the part of the table's name that they are. */
    public const COVERED = 'covered';
    public const COVERS = 'covers';
    /** Both tables' names begin with the same word, as those of some others do. */
    /** The table's name is that of the referring one, and what the field is called. */
    public const OWN_FIRST = 'ownFirst';
    public const SAME_MODULE = 'sameModule';
    public const ENDING_FITS = 'endingFits';
    public const ENDING_OTHER = 'endingOther';
    public const ENDING_SURE = 'endingSure';
    public const ENDING_MAYBE = 'endingMaybe';
    public const ENDING_RUN = 'endingRun';
    public const ATTRIBUTE = 'attribute';
    public const PLAIN = 'plain';
    public const KEY_EQUAL = 'keyEqual';
    public const KEY_STRIPPED = 'keyStripped';
    public const KEY_ENDS = 'keyEnds';
    public const SELF_ROLE = 'selfRole';
    /** A role, and the name of its own table. */
    public const SELF_NAMED = 'selfNamed';
    public const DOER = 'doer';
    /** The table's fields are those of people. */
    public const PEOPLE = 'people';
    /** There are other tables of people as well. */
    public const MANY_PEOPLE = 'manyPeople';
    public const USERS = 'users';
    /** The key is called after another table. */
    public const KEY_ELSEWHERE = 'keyElsewhere';
    public const COMMENT = 'comment';
    public const TYPE_NAMES = 'typeNames';
    public const TYPE_SIZE = 'typeSize';
    /** Of numbers, the bits or the sign. */
    public const TYPE_WIDTH = 'typeWidth';
    public const TYPE_LOOSE = 'typeLoose';
    /** Types that hold nothing but numbers of rows: uuid, oid. */
    public const SPECIAL = 'special';
    public const TIME = 'time';
    public const LIST = 'list';
    public const NUMBER = 'number';
    public const LONG_TEXT = 'longText';
    public const MEMBERS = 'members';
    public const COMPUTED = 'computed';
    public const KEY_UNIQUE = 'keyUnique';
    public const KEY_LIKELY = 'keyLikely';
    public const SELF = 'self';
    public const OTHER_SCHEMA = 'otherSchema';
    public const COPY = 'copy';
    public const INDEX = 'index';
    public const OWN_KEY = 'ownKey';
    /** It is the key of its own table and called after it. */
    public const OWN_NAMED = 'ownNamed';
    /** The other table has a field of this name too, and it is not its key. */
    public const SIBLING = 'sibling';
    public const NUMBERED_KEY = 'numberedKey';
    public const OWN_UNIQUE = 'ownUnique';
    public const KEY_PART = 'keyPart';
    public const COMPOSITE = 'composite';
    public const WEAKEST = 'weakest';
    public const ALL_SURE = 'allSure';
    /** One of its fields is a name, a type or the like. */
    public const PLAIN_PART = 'plainPart';
    /** All its fields have the same role before the names of the key's: `from_zone, from_place`. */
    public const SAME_ROLE = 'sameRole';
    public const SAME_KEY = 'sameKey';
    /** Both tables have nearly the same fields. */
    public const SAME_SHAPE = 'sameShape';
    public const LINK_KEY = 'linkKey';
    public const VIEW = 'view';
    public const ROUTINE = 'routine';
    public const QUERY = 'query';
    /** Of the schema as a whole, after a first weighing. */
    public const BOTH_WAYS = 'bothWays';
    public const TWICE = 'twice';
    public const IMPLIED = 'implied';
    public const HUB = 'hub';
    public const HABIT = 'habit';
    /** The people led to are themselves others', of another table. */
    public const PEOPLE_ON = 'peopleOn';
    /** Of the data. */
    public const FOUND_ALL = 'foundAll';
    public const FOUND_NEARLY = 'foundNearly';
    public const FOUND_MOST = 'foundMost';
    public const FOUND_SOME = 'foundSome';
    public const FOUND_NONE = 'foundNone';
    public const SPREAD = 'spread';
    public const SMALL = 'small';
    public const TELLING = 'telling';
    public const USED = 'used';
    /** It holds the codes of a short list, and nothing else. */
    public const SAME_SET = 'sameSet';
    public const NO_DATA = 'noData';
    /** Of several tables whose keys are called alike it is the one that the others are about, or another of them. */
    public const ROOT = 'root';
    public const NOT_ROOT = 'notRoot';
    /** The field is called as the key of the root is. */
    public const SAME_ROOT = 'sameRoot';
    /** The only key of a name that says nothing by itself, such as id. */
    public const PLAIN_ROOT = 'plainRoot';
    /** The key of its own table, which is called as that of the root is and not numbered by itself. */
    public const SUBKEY = 'subkey';
    /** The key leads on to another. */
    public const LEADS_ON = 'leadsOn';
    /** What is led to by a key to which this field might lead. */
    public const VIA = 'via';
    /** It begins with the whole name of the key, or has it around a role: `symbol_id_base`, `file_defined_id`. */
    public const KEY_BEGINS = 'keyBegins';
    public const KEY_AROUND = 'keyAround';
    /** The name of the referring table begins with that of the other: `order_line` and `order`. */
    public const OWN_BEGINS = 'ownBegins';
    /** Both names begin alike, and further than those of other tables do. */
    public const NEAR = 'near';
    /** The name of the table is that of the referring one and of the field: `payment_journal` for `journal` of payment; by how much of the former. */
    public const COMPOSED = 'composed';
    /** The same, of what ends as keys do. */
    public const COMPOSED_KEY = 'composedKey';
    /** A number, or a text, that is called after a thing and not as keys are. */
    public const WHOLE = 'whole';
    public const PLAIN_WHOLE = 'plainWhole';
    public const WORDS = 'words';
    /** It is called after the table and does not end as keys do; and how usual that is in the schema. */
    public const NO_ENDING = 'noEnding';
    public const BARE = 'bare';
    /** What ties other things together: `order_rel`, `user-group`. */
    public const LINK = 'link';
    /** Both names end alike, as those of some others do: `tax_template` and `line_template`. */
    public const SAME_END = 'sameEnd';
    public const COMPOSED_END = 'composedEnd';
    /** Other words that both names have, of those of the one led to. */
    public const SHARED = 'shared';
    /** The part of the field's name that names this table less than another is named. */
    public const LESS_NAMED = 'lessNamed';
    /** The table lists what a field of the same name may hold, and has no other field. */
    public const LOOKUP = 'lookup';
    /** It is called as the table and its key are: `device_serial`. */
    public const TABLE_KEY = 'tableKey';
    /** A key beside the primary one, whose name the field does not have. */
    public const KEY_OTHER = 'keyOther';
    /** A part of a composite key that is a text of its own. */
    public const LOOSE_PART = 'loosePart';
    /** It says yes or no, how many, or several things at once. */
    public const FLAG = 'flag';
    public const AMOUNT = 'amount';
    public const PLURAL = 'plural';
    public const UNNAMED = 'unnamed';
}
