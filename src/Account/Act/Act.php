<?php

declare(strict_types=1);

namespace Fasti\Account\Act;

/** What people may do or not. Code asks for an act; which role may is said by the voter of the act alone. */
final class Act
{
    /** Look things up. */
    public const READ = 'read';
    /** Write texts about what is in the register. */
    public const DESCRIBE = 'describe';
    /** Add sources, say how they are reached, and have their structure read. */
    public const SURVEY = 'survey';
    /** Decide what the register follows, and set findings aside. */
    public const DECIDE = 'decide';
    /** Make editions. */
    public const PUBLISH = 'publish';
    /** Have something run on a source's data. */
    public const ASK = 'ask';
    /** See values that are personal. */
    public const SEE_PERSONAL = 'see personal';
    /** Look after accounts. */
    public const ADMINISTER = 'administer';

    private function __construct()
    {
    }
}
