<?php

declare(strict_types=1);

namespace Fasti\Text;

/** A text that cannot be saved as it is; the message tells the person why and what to do. */
final class BadText extends \RuntimeException
{
}
