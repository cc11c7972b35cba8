<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\JsonResponse;
use Symfony\Component\Yaml\Yaml;

final class OpenApiController
{
    public function __invoke(): JsonResponse
    {
        return new JsonResponse(
            Yaml::parseFile(resource_path('openapi.yaml'), Yaml::PARSE_OBJECT_FOR_MAP),
            200,
            ['Cache-Control' => 'no-cache'],
            JSON_UNESCAPED_SLASHES | JSON_PRETTY_PRINT,
        );
    }
}
