<?php

declare(strict_types=1);

namespace Fasti\Account\Act;

/** What people may do or not. Code asks for an act; which acts a role has is data, which administrators change. */
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
    /** Ask what shared models answer. */
    public const ASK_MODELS = 'ask models';
    /** Have something run on a source's data. */
    public const ASK = 'ask';
    /** See values that are personal. */
    public const SEE_PERSONAL = 'see personal';
    /** Look after accounts. */
    public const ADMINISTER = 'administer';

    /** What each is to people, in the order in which they are listed. */
    public const WORDS = [
        self::READ => 'look things up',
        self::DESCRIBE => 'write: texts, diagrams, models, designs',
        self::SURVEY => 'add sources, and have their structure read',
        self::DECIDE => 'decide what the register follows, set findings aside',
        self::PUBLISH => 'make editions',
        self::ASK_MODELS => 'ask shared models',
        self::ASK => 'ask questions of the data of sources',
        self::SEE_PERSONAL => 'see values that are personal',
        self::ADMINISTER => 'look after accounts and roles',
    ];

    private function __construct()
    {
    }
}
