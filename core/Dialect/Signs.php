<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** The signs with which scripts of a dialect are written: texts, names, comments, what ends a statement. As it stands here it is that of the standard. */
final class Signs
{
    /** A backslash escapes within texts. */
    public bool $backslashes = false;
    /** E'…' is a text with escapes. */
    public bool $escapeTexts = false;
    /** "…" may be a text. */
    public bool $doubleQuotedTexts = false;
    /** '…' may be a name. */
    public bool $quotedTextsAsNames = false;
    /** `…` quotes a name. */
    public bool $backticks = true;
    /** […] quotes a name. */
    public bool $brackets = true;
    /** # begins a comment, and /*! … is read by those who know it. */
    public bool $hashAndVersionComments = false;
    public bool $nestedComments = false;
    /** $tag$ … $tag$ is a text. */
    public bool $dollarTexts = false;
    /** Unquoted names are taken in small letters. */
    public bool $foldsNames = false;
    /** DELIMITER changes what ends a statement. */
    public bool $delimiters = false;
    /** A line with GO or / alone ends a statement. */
    public bool $batches = true;
    /** A pattern of what begins a comment that this engine reads; '' where there is none. */
    public string $versionMarks = '';
    /** An unquoted name may begin with a digit. */
    public bool $digitNames = false;
    /** How many bytes a name has at the most, where longer ones are cut without a word; 0 for any. */
    public int $longestName = 0;
    /** Rows follow COPY … FROM stdin. */
    public bool $copiedRows = false;
}
