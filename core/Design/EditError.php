<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A change of an outline that cannot be made, with the reason for people. */
final class EditError extends \RuntimeException
{
}
