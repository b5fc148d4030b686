<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Symfony\Component\HttpKernel\Attribute\WithHttpStatus;

/** Somebody may see a thing, and not do this with it. */
#[WithHttpStatus(403)]
final class NotYours extends \RuntimeException
{
}
