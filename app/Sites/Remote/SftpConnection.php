<?php

declare(strict_types=1);

namespace App\Sites\Remote;

use League\Flysystem\PhpseclibV3\ConnectionProvider;
use phpseclib3\Crypt\Common\PrivateKey;
use phpseclib3\Crypt\PublicKeyLoader;
use phpseclib3\Net\SFTP;
use Throwable;

/** A connection over SFTP, opened when it is needed first; what keeps it from opening is said in a sentence. */
final class SftpConnection implements ConnectionProvider
{
    private const SECONDS = 10;

    private ?SFTP $open = null;

    /**
     * @param  string  $key a private key as OpenSSH or PEM writes it; empty where a password is given
     * @param  string  $fingerprint of the host's key, as `ssh-keygen -lf` prints it (SHA256:…); empty where any will do
     */
    public function __construct(
        private readonly string $host,
        private readonly int $port,
        private readonly string $user,
        #[\SensitiveParameter] private readonly string $password,
        #[\SensitiveParameter] private readonly string $key,
        private readonly string $fingerprint,
    ) {
    }

    /** @throws CannotConnect */
    public function provideConnection(): SFTP
    {
        if ($this->open?->isConnected() === true) {
            return $this->open;
        }
        $sftp = new SFTP($this->host, $this->port, self::SECONDS);
        $sftp->disableStatCache();
        try {
            $hostKey = $sftp->getServerPublicHostKey();
        } catch (Throwable $e) {
            throw new CannotConnect("$this->host does not answer on port $this->port: {$e->getMessage()}", 0, $e);
        }
        $met = self::fingerprintOf(is_string($hostKey) ? $hostKey : '');
        if ($this->fingerprint !== '' && ! hash_equals($this->fingerprint, $met)) {
            throw new CannotConnect(
                "$this->host shows another key ($met) than the one that was said. Nothing was sent to it. Find out why "
                    .'before you change the fingerprint.',
            );
        }
        try {
            $secret = $this->key === '' ? $this->password : $this->privateKey();
            $isIn = $sftp->login($this->user, $secret);
        } catch (CannotConnect $e) {
            throw $e;
        } catch (Throwable $e) {
            throw new CannotConnect("$this->host ended the sign-in: {$e->getMessage()}", 0, $e);
        }
        if (! $isIn) {
            $what = $this->key === '' ? 'password' : 'key';
            throw new CannotConnect("$this->host does not let \"$this->user\" in. Check user and $what.");
        }

        return $this->open = $sftp;
    }

    public function disconnect(): void
    {
        $this->open?->disconnect();
        $this->open = null;
    }

    private function privateKey(): PrivateKey
    {
        try {
            return PublicKeyLoader::loadPrivateKey($this->key, $this->password);
        } catch (Throwable $e) {
            throw new CannotConnect(
                'The key is no private key that can be read, or its password is another one.',
                0,
                $e,
            );
        }
    }

    /** As OpenSSH says it: SHA-256 of the key itself, base64 without padding (RFC 4648). */
    private static function fingerprintOf(string $hostKey): string
    {
        $bytes = base64_decode(explode(' ', $hostKey)[1] ?? '', true);

        return 'SHA256:'.rtrim(base64_encode(hash('sha256', $bytes === false ? '' : $bytes, true)), '=');
    }
}
