<?php

declare(strict_types=1);

namespace Ylema\Logs;

use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Whose;

/**
 * Tells robots, visitors, other sites and mail apart by what a request says of itself. Robots name themselves, mostly
 * with an address that explains them; what says nothing at all is a program, since every browser says something.
 */
final class Askers
{
    private const ROBOT =
        '~bot\b|bot[/_ ;)-]|crawl|spider|slurp|scan|archiv|monitor|check|preview|fetch|feed|validator|headless|'
        .'curl|wget|libwww|httpclient|http-client|okhttp|python|java/|perl|ruby|go-http|node|axios|scrapy|lighthouse|'
        .'\+https?://~i';

    private const MAIL = '~thunderbird|outlook|airmail|postbox|imageproxy|mailproxy|\bmail\b|mail/~i';

    private const MAIL_HOST = '~^(?:web)?mail\d*\.|\.mail\.|^(?:outlook|imp|roundcube|owa)\.~i';

    /** How many different agents are remembered; a log of a busy year has some thousands. */
    private const REMEMBERED = 20_000;

    /** @var array<string, Asker|null> agent → robot or mail, where the agent alone says it */
    private array $agents = [];

    /** @var array<string, bool> origin of a page → whether it is the site itself */
    private array $own = [];

    /** @param  string  $self what this program's own requests say of themselves; they are not counted */
    public function __construct(private readonly SiteAddresses $addresses, private readonly string $self)
    {
    }

    /** @return Asker|null null for this program itself */
    public function of(LogLine $line): ?Asker
    {
        if ($line->agent === $this->self) {
            return null;
        }
        $byAgent = array_key_exists($line->agent, $this->agents)
            ? $this->agents[$line->agent]
            : $this->agent($line->agent);
        if ($byAgent !== null) {
            return $byAgent;
        }
        if ($line->referrer === '') {
            return Asker::Visitor;
        }
        $origin = self::origin($line->referrer);
        if ($origin === null) {
            return Asker::Visitor;
        }
        if (count($this->own) > self::REMEMBERED) {
            $this->own = [];
        }
        $isOwn = $this->own[$origin] ??= $this->addresses->locate("$origin/")?->whose !== Whose::Foreign;

        return match (true) {
            $isOwn => Asker::Visitor,
            preg_match(self::MAIL_HOST, (string) parse_url($origin, PHP_URL_HOST)) === 1 => Asker::Mail,
            default => Asker::OtherSite,
        };
    }

    private function agent(string $agent): ?Asker
    {
        if (count($this->agents) > self::REMEMBERED) {
            $this->agents = [];
        }

        return $this->agents[$agent] = match (true) {
            $agent === '', preg_match(self::ROBOT, $agent) === 1 => Asker::Robot,
            preg_match(self::MAIL, $agent) === 1 => Asker::Mail,
            default => null,
        };
    }

    private static function origin(string $referrer): ?string
    {
        return preg_match('~^https?://[^/?#]+~i', $referrer, $m) === 1 ? strtolower($m[0]) : null;
    }
}
