<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use RuntimeException;
use Ylema\Failure;

/** An upload that is not taken; the message is a sentence for the person who sent it, with what to do. */
final class UploadRefused extends RuntimeException implements Failure
{
}
