<?php

declare(strict_types=1);

/*
 * The process that App\Media\OpenPicture starts for one picture: it answers on its standard output what it is asked on
 * its standard input, and ends with it.
 *
 *     php app/Console/pictures.php BYTES        how much memory pixels may take
 */

use App\Media\PictureBench;
use App\Media\PictureMessage;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Sites\WriteRefused;

require __DIR__.'/../../vendor/autoload.php';

/** @var list<string> $arguments */
$arguments = $_SERVER['argv'];
$bench = new PictureBench((int) ($arguments[1] ?? 0));
$read = static function (int $length): string {
    $bytes = $length > 0 ? stream_get_contents(STDIN, $length) : '';

    return $bytes === false ? '' : $bytes;
};
while (($message = PictureMessage::from($read)) !== null) {
    [$question, $bytes] = $message;
    $drawn = '';
    try {
        if ($question['do'] === 'open') {
            $size = $bench->open($bytes, $question['extension'], $question['name']);
            $answer = ['width' => $size->width, 'height' => $size->height];
        } else {
            $size = new Size($question['width'], $question['height']);
            $drawn = $bench->fill($size, $question['x'], $question['y'], $question['extension']);
            $answer = [];
        }
    } catch (UploadRefused|WriteRefused $e) {
        $answer = ['refused' => $e->getMessage()];
    }
    fwrite(STDOUT, PictureMessage::pack($answer, $drawn));
}
