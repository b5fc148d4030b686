<?php

declare(strict_types=1);

namespace Fasti\Register;

/** The places on the page of an entry, and on its page in an edition, where rooms show what they know. */
enum Slot: string
{
    /** Under the meaning of the entry. */
    case Head = 'head';
    /** After the fields that tell rows apart. */
    case Apart = 'apart';
    /** After the sentence of a join. */
    case Join = 'join';
    /** Beside the list of joins. */
    case Joins = 'joins';
    /** A figure beside the head: `<div><dt>…</dt><dd>…</dd></div>`. */
    case Count = 'count';
    /** Beside the native type of a field. */
    case FieldHolds = 'field-holds';
    /** A word among those under the meaning of a field. */
    case FieldTags = 'field-tags';
    /** In the opened row of a field. */
    case FieldMore = 'field-more';
    /** A fact in the opened row of a field: `<div><dt>…</dt><dd>…</dd></div>`. */
    case FieldFacts = 'field-facts';
    /** In the margin beside a field. */
    case FieldMargin = 'field-margin';
    /** Below the ledger. */
    case Below = 'below';
}
