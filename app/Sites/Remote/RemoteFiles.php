<?php

declare(strict_types=1);

namespace App\Sites\Remote;

use Aws\CommandInterface;
use Aws\Middleware;
use Aws\S3\S3Client;
use InvalidArgumentException;
use League\Flysystem\AwsS3V3\AwsS3V3Adapter;
use League\Flysystem\FilesystemAdapter;

/**
 * Files of a site that lie on another machine (SFTP) or in an object store (S3), as its settings say where.
 */
final readonly class RemoteFiles
{
    /** What is said of each, and whether it has to be. */
    private const LINES = [
        'sftp' => [
            'host' => true,
            'port' => false,
            'user' => true,
            'password' => false,
            'key' => false,
            'fingerprint' => false,
            'folder' => true,
        ],
        's3' => [
            'bucket' => true,
            'prefix' => false,
            'region' => false,
            'endpoint' => false,
            'key' => true,
            'secret' => true,
            'acl' => false,
        ],
    ];

    /** Said by the name of a variable of the environment, or of a file, so that they stand in no settings. */
    private const SECRETS = ['password', 'key', 'secret'];

    /** @return list<string> the names of all that can be said of either */
    public static function names(): array
    {
        return array_values(array_unique(array_merge(...array_map(array_keys(...), array_values(self::LINES)))));
    }

    /**
     * @param  array<mixed>  $said as a settings file says it: one line, `sftp` or `s3`
     * @return array<string, string>
     *
     * @throws InvalidArgumentException with the place, and what belongs there
     */
    public static function said(array $said, string $place, string $folder): array
    {
        $kind = (string) array_key_first($said);
        $own = $said[$kind] ?? null;
        if (count($said) !== 1 || ! isset(self::LINES[$kind]) || ! is_array($own)) {
            throw new InvalidArgumentException("$place: a folder belongs here, or one of sftp and s3 with its lines.");
        }
        $lines = ['kind' => $kind];
        foreach (self::SECRETS as $secret) {
            $own = self::fromElsewhere($own, $secret, "$place.$kind", $folder);
        }
        foreach (array_keys($own) as $line) {
            if (! isset(self::LINES[$kind][$line])) {
                $known = implode(', ', array_keys(self::LINES[$kind]));
                throw new InvalidArgumentException("$place.$kind.$line: nothing is called so here. Known: $known.");
            }
        }
        foreach (self::LINES[$kind] as $line => $isNeeded) {
            $value = $own[$line] ?? null;
            if (is_scalar($value) && (string) $value !== '') {
                $lines[$line] = (string) $value;
            } elseif ($isNeeded) {
                throw new InvalidArgumentException("$place.$kind.$line: this is missing.");
            }
        }
        if ($kind === 'sftp' && ! isset($lines['password']) && ! isset($lines['key'])) {
            throw new InvalidArgumentException("$place.sftp: a password or a key belongs here.");
        }

        return $lines;
    }

    /** @param  array<string, string>  $said as said() left it */
    public static function open(array $said): FilesystemAdapter
    {
        return match ($said['kind']) {
            'sftp' => new SftpFiles(
                new SftpConnection(
                    $said['host'],
                    (int) ($said['port'] ?? 22),
                    $said['user'],
                    $said['password'] ?? '',
                    $said['key'] ?? '',
                    $said['fingerprint'] ?? '',
                ),
                $said['folder'],
            ),
            default => new AwsS3V3Adapter(self::s3($said), $said['bucket'], $said['prefix'] ?? ''),
        };
    }

    /** @param  array<string, string>  $said */
    private static function s3(array $said): S3Client
    {
        $client = new S3Client([
            'version' => '2006-03-01',
            'region' => $said['region'] ?? 'us-east-1',
            'credentials' => ['key' => $said['key'], 'secret' => $said['secret']],
            'http' => ['connect_timeout' => 10, 'timeout' => 300],
            'retries' => 2,
            // Stores of one's own answer under one name for all buckets.
            ...isset($said['endpoint'])
                ? ['endpoint' => $said['endpoint'], 'use_path_style_endpoint' => true]
                : [],
        ]);
        // The library would close each new object to visitors; buckets whose policy decides refuse to be told at all.
        $client->getHandlerList()->appendInit(
            Middleware::mapCommand(static function (CommandInterface $command) use ($said): CommandInterface {
                if (isset($command['ACL']) && isset($said['acl'])) {
                    $command['ACL'] = $said['acl'];
                } else {
                    unset($command['ACL']);
                }

                return $command;
            }),
            'ylema.acl',
        );

        return $client;
    }

    /**
     * @param  array<mixed>  $own
     * @return array<mixed>
     */
    private static function fromElsewhere(array $own, string $secret, string $place, string $folder): array
    {
        $from = $own["{$secret}_from"] ?? null;
        $file = $own["{$secret}_file"] ?? null;
        unset($own["{$secret}_from"], $own["{$secret}_file"]);
        if (is_string($from)) {
            $own[$secret] = getenv($from);
            if ($own[$secret] === false) {
                throw new InvalidArgumentException(
                    "$place.{$secret}_from: there is no such variable in the environment.",
                );
            }
        } elseif (is_string($file)) {
            $path = str_starts_with($file, '/') ? $file : "$folder/$file";
            $own[$secret] = is_file($path) ? @file_get_contents($path) : false;
            if ($own[$secret] === false) {
                throw new InvalidArgumentException("$place.{$secret}_file: $path is not there, or cannot be read.");
            }
        }

        return $own;
    }
}
