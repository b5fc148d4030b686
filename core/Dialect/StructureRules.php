<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** How a dialect writes what a database is made of. As it stands here it is that of the standard. */
final class StructureRules
{
    /** KEY name (…) within a table is an index, and KEY after a column makes it the primary key. */
    public bool $inlineIndexes = false;
    /** INDEX name (…) within a table is one, where it cannot be a column. */
    public bool $looseInlineIndexes = true;
    /** A type may have several words, whatever they are. */
    public bool $wordyTypes = false;
    /** ARRAY after a type makes it a list. */
    public bool $arrays = false;
    /** Elements of a table need no comma between them. */
    public bool $looseLists = false;
    /** Options of columns and keys that are not known are passed over: there are too many engines that write them. */
    public bool $looseOptions = true;
    /** A column may say where it stands: FIRST, AFTER another. */
    public bool $placesColumns = false;
    /** How tightly operators bind within a default that has no parentheses around it. */
    public int $defaultBinding = 50;
    /** What depends on something that is dropped goes with it, where the statement says so. */
    public bool $cascades = true;
    /** A table made LIKE another has of it what the statement chooses. */
    public bool $likeChooses = true;
    /** Index parts may name an operator class; an expression needs no parentheses of its own. */
    public bool $operatorClasses = false;
    public bool $bareIndexCalls = true;
    /** A trigger calls a function, which is all of its body. */
    public bool $triggersCall = false;
    /** The body of a routine begins without AS. */
    public bool $bareRoutines = false;
    /** SELECT … INTO makes a table. */
    public bool $selectsInto = false;
    /** UNLOGGED and FOREIGN before TABLE say how it is kept. */
    public bool $storageBefore = false;
}
