<?php

declare(strict_types=1);

namespace App\Outgoing;

use Symfony\Component\HttpFoundation\IpUtils;

/** Where names lead, and whether that is on the internet. */
class HostNames
{
    /**
     * What is not (IANA, special-purpose address registries for IPv4 and IPv6): this machine, this network, the link,
     * documents, many at once; and IPv6 in which an IPv4 address is written, which would have to be judged in turn.
     */
    private const NOT_PUBLIC = [
        '0.0.0.0/8', '10.0.0.0/8', '100.64.0.0/10', '127.0.0.0/8', '169.254.0.0/16', '172.16.0.0/12', '192.0.0.0/24',
        '192.0.2.0/24', '192.88.99.0/24', '192.168.0.0/16', '198.18.0.0/15', '198.51.100.0/24', '203.0.113.0/24',
        '224.0.0.0/3',
        '::/8', '64:ff9b::/16', '100::/8', '2001::/23', '2001:db8::/32', '2002::/16', '3fff::/20', '5f00::/16',
        'fc00::/7', 'fe80::/9', 'ff00::/8',
    ];

    /**
     * The first address that a name leads to.
     *
     * @return string|null null where it leads nowhere, or where any of its addresses is not of the internet
     */
    public function publicAddress(string $host): ?string
    {
        $addresses = $this->lookUp($host);
        foreach ($addresses as $address) {
            if (inet_pton($address) === false || IpUtils::checkIp($address, self::NOT_PUBLIC)) {
                return null;
            }
        }

        return $addresses[0] ?? null;
    }

    /** Whether the machine knows anybody of this name. */
    public function isKnown(string $host): bool
    {
        return $this->lookUp($host) !== [];
    }

    /**
     * As the machine itself does it, so that a number in any spelling is what a connection would take it for.
     *
     * @return list<string>
     */
    protected function lookUp(string $host): array
    {
        $bare = trim($host, '[]');
        if (@inet_pton($bare) !== false) {
            return [$bare];
        }
        if (function_exists('socket_addrinfo_lookup')) {
            $found = [];
            foreach (socket_addrinfo_lookup($host, null, ['ai_socktype' => SOCK_STREAM]) ?: [] as $info) {
                $address = socket_addrinfo_explain($info)['ai_addr'];
                $found[] = $address['sin_addr'] ?? ($address['sin6_addr'] ?? '');
            }

            return array_values(array_unique($found));
        }

        return gethostbynamel($host) ?: [];
    }
}
