<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** The site's inline tokens, by the patterns of its field map. */
final readonly class TokenReader implements Reader
{
    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $layer = new Plain(Notation::Token, '~^[^\s<>"\']+$~D');
        foreach ($rules->tokens as $token) {
            $group = $token->group();
            if (preg_match_all($token->regex, $slice->text, $matches, PREG_OFFSET_CAPTURE) === false) {
                $found->problem(
                    $slice->outer(0),
                    "The pattern of the token \"{$token->name}\" gave up on this text: ".preg_last_error_msg().'.',
                );

                continue;
            }
            foreach ($matches[$group] ?? [] as [$value, $offset]) {
                if ($offset >= 0) {
                    $found->add(
                        $slice, $offset, strlen($value), $value, $token->names, 'token '.$token->name, Fetch::BySite,
                        $layer, $token->target,
                    );
                }
            }
        }
    }
}
