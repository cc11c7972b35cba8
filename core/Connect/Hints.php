<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What names of tables and columns commonly mean, in the words that builders of sites use. */
final class Hints
{
    /** What a file is called that a page shows, in words that stand alone or at the end of a longer one. */
    private const PICTURES = 'images?|pictures?|photos?|fotos?|bild(?:er)?|imagen(?:es)?|imagem|imagens|immagin[ei]|'.
        'afbeelding(?:en)?|obraz(?:ek|ki|ky|y)?|zdjeci[ea]|billed(?:e|er)|bilder|vignettes?|thumb(?:nail)?s?|banner|'.
        'poster|portraits?';

    public const MEDIA =
        '~(?:^|_)(?:media|medium|pics?|pict|img|'.self::PICTURES.'|bilde|kuvat?|kep(?:ek)?|slik[ae]|resim|'.
        'grafik[aie]?|'.
        'miniatura?|visuel|affiche|couverture|portada|copertina|capa|okladka|omslag|fichiers?|archivos?|ficheros?|'.
        'arquivos?|allegat[oi]|bijlagen?|bestand(?:en)?|plik(?:i|ow)?|fil(?:er)?|bilag(?:a|or)|zalaczniki?|'.
        'anexos?|'.
        'adjuntos?|files?|datei(?:en)?|anhang|hero|logo|icon|favicon|avatar|cover|gallery|galleri(?:a|et)?|galeri[ae]|'.
        'galerij|slides?|slider|carousel|album|background|bg|attachments?|assets?|figures?|plates?|visual|'.
        'illustration|'.
        'featured|symbol|badge|emblem|wappen|escudo|header_?image)(?:_|$|\d|ids?$)|'.
        // Languages, and hands, that write words together: `kopfbild`, `headerimage`, `idfoto`, `logoid`.
        '(?:[a-z]{2}|^id|^fk)(?:'.self::PICTURES.')(?:_|$|\d|ids?$)|^(?:id|fk)(?:logo|img|pic|file|datei|fichier)$~i';

    /** What a list of all media is called, and not a list of things that have a picture each. */
    public const LIBRARY =
        '~(?:^|_)(?:media|medium|images?|img|pics?|pict|pictures?|photos?|fotos?|bild(?:er)?|imagen(?:es)?|imagem|'.
        'imagens|immagin[ei]|'.
        'afbeelding(?:en)?|kuvat?|obraz(?:ek|ki|ky|y)?|fichiers?|archivos?|ficheros?|arquivos?|allegat[oi]|bijlagen?|'.
        'bestand(?:en)?|plik(?:i|ow)?|fil(?:er)?|files?|'.
        'datei(?:en)?|uploads?|attachments?|assets?|documents?|library)(?:_|$|\d)~i';

    /** What says of a column that it holds keys, before or behind what it names. */
    public const MARKS = '~^(?:id|fk|ref|cod|nr|num)_(?=.)|_?(?:id|ids|key|code|no|nr|ref|fk|uuid|guid)$~';

    /** A key of something, by the last word of its name or the first. */
    public const KEY =
        '~(?:^|_)(?:ids?|fk|ref|uuid|guid)$|^(?:id|fk|ref)_'.
        '|(?:media|image|img|pic|photo|file|asset|object|node|item|content|first|second|third|main|lead)ids?$~i';

    /** Numbers that count, measure or put in order, and are keys of nothing. */
    public const NUMBER =
        '~(?:^|_)(?:width|height|w|h|x|y|z|size|bytes|length|counts?|total|num(?:ber)?|qty|quantity|amount|sum|price|'.
        'cost|pos(?:ition)?|sort(?:ing)?|(?:sort_?)?order|ordering|rank|weight|score|rating|stars|votes?|views?|hits|'.
        'clicks?|visits|year|month|day|hour|minute|week|age|duration|seconds|time|date|created|updated|modified|'.
        'timestamp|lat(?:itude)?|lng|lon(?:gitude)?|level|depth|lft|rgt|priority|seq(?:uence)?|percent|ratio|line|'.
        'offset|quality|zoom|columns?|rows?|status|state|mode|flags?|version|revision|breite|hoehe|anzahl|jahr|menge|'.
        'preis|reihenfolge|largeur|hauteur|nombre|annee|prix|ordre|ancho|alto|orden|precio|ordine|prezzo|aantal|'.
        'volgorde|positi[eo]n?|posizione|posicion|posicao|ordem|ordning|kolejnosc|pozycja|ilosc|cena|preco|pris|prijs|'.
        'punkte|punten|puntos|punti|pontos|poang|punkty|antal|quantite|quantita|cantidad|rozmiar|szerokosc|wysokosc|'.
        'largura|altura|bredd|hojd|breedte|hoogte|larghezza|altezza)$~i';

    /** Who did something, or owns it. */
    public const SOMEBODY =
        '~(?:^|_)(?:users?|author|owner|creator|editor|admin|customer|client|account|member|guest|autor|auteur|autore|'.
        'benutzer|usuario|utilisateur|utente|gebruiker|(?:created|updated|modified|added|edited)_?by)(?:_?id)?$~i';

    /** What holds several media, and may have a number of its own. */
    public const SET = '~(?:^|_)(?:gallery|galerie|slider|carousel|album)(?:_|$|\d)~i';

    /** Copies, notes and passing things: what stands there is shown to nobody. */
    public const PASSING =
        '~(?:^|_)(?:cache[sd]?|logs?|search(?:_?(?:index|words?))?|index(?:ed)?_?words?|sessions?|queues?|jobs?|'.
        'tokens?|stats?|statistics|hits?|visits?|views?|te?mp|backups?|bak|migrations?|locks?|audit|watchdog|'.
        'counters?|counts?|captcha|login|failed|zwischenspeicher|protokoll|sitzung(?:en)?|suchindex|papierkorb|'.
        'zugriffe|'.
        'registros?|sesion(?:es)?|corbeille|cestino|logboek)(?:_|$)|'.
        '[a-z](?:cache[sd]?|sessions?|backups?|statistics)$~i';

    /** Ways to pages, and no pages themselves. */
    public const WAYS =
        '~(?:^|_)(?:navs?|navigations?|menus?|menu_?items?|links?|redirects?|bookmarks?|breadcrumbs?)(?:_|$)~i';

    public const EARLIER =
        '~(?:^|_)(?:revisions?|versions?|histor(?:y|ies)|drafts?|snapshots?|undo|trash|bin|versionen|historie|'.
        'historique|revisiones|versiones|storico|versioni)(?:_|$)~i';

    /** A row of the earlier versions that is shown now. */
    public const CURRENT =
        '~^(?:current|live|latest|newest|active|published|head|last|shown)(?:_?(?:version|revision|text|content))?'.
        '(?:_?(?:id|no|nr))?$'.
        '|^(?:version|revision)(?:_?(?:id|no|nr))?$~i';

    public const NAME =
        '~(?:^|_)(?:name|key|field|option|prop|property|attr|attribute|setting|var|variable|param|parameter|code|'.
        'handle|schluessel|feld|eigenschaft|cle|clave|campo|chiave|sleutel|veld)$~i';

    public const VALUE =
        '~(?:^|_)(?:value|val|content|data|setting|text|payload|wert|inhalt|valeur|valor|valore|waarde)$~i';

    public const SLUG =
        '~(?:^|_)(?:slug|alias|permalink|url_?(?:key|name|title|slug)|uri|handle|pretty_?url|path|url|address|'.
        'link_?name|'.
        'seo_?(?:name|title|url)|kurz(?:name|titel))$~i';

    public const TITLE =
        '~(?:^|_)(?:title|titel|name|label|subject|headline|heading|head|caption|titre|nom|intitule|titulo|nombre|'.
        'titolo|nome|naam|tytul|nazwa|bezeichnung|ueberschrift)$~i';

    public const LANGUAGE =
        '~(?:^|_)(?:lang|language|locale|lng|sprache|langue|idioma|lingua|taal|jezyk)(?:_?(?:code|id))?$~i';

    private const MEDIUM = '~^medi(?:um|en)$~';

    /** What English says otherwise of many. */
    private const IRREGULAR = ['people' => 'person', 'children' => 'child', 'men' => 'man', 'women' => 'woman'];

    /** Of all tables, so many begin with the same letters where those mean the site. */
    private const SHARED = 0.8;

    /** ISO 639-1, but for what are words of names as well: `no`, `id`, `is`. */
    private const IN_LANGUAGE =
        '~_(?:en|de|fr|es|it|nl|pt|pl|cs|cy|da|nb|nn|sv|fi|et|lv|lt|ru|uk|be|bg|sr|hr|bs|sl|sk|hu|ro|el|tr|ar|he|ja|zh|'
        .'ko|ga|gd|ca|eu|gl|sq|mk|mt|lb|fo)$~';

    /** A name in addresses, where no slash stands in any. */
    public const LINK_NAME = '~(?:^|_)(?:link|link_?name|short_?name|code_?name)$~i';

    public const PARENT = '~(?:^|_)(?:parent|up|ancestor|eltern|ober|padre|genitore|ouder)(?:_?id)?$|^pid$~i';

    public const STATUS =
        '~(?:^|_)(?:status|state|published|publish|public|active|aktiv|visible|enabled|approved|online|live|open|'.
        'shown?|display|is_?(?:published|active|visible|live|public|online|sent)|released|confirmed|sichtbar'
            .'|freigegeben|'.
        '(?:sent|mailed|delivered|issued|launched)(?:_?(?:at|on))?|gesendet|verschickt|versandt|envoye|enviado'
            .'|inviato|'.
        'veroeffentlicht|publie|actif|publicado|activo|pubblicato|attivo|zichtbaar|actief|gepubliceerd)$~i';

    public const HIDDEN =
        '~(?:^|_)(?:hidden|disabled|draft|is_?draft|private|offline|cancell?ed|closed|unpublished|inactive|blocked|'.
        'is_?hidden)$~i';

    public const GONE =
        '~(?:^|_)(?:deleted(?:_?(?:at|on))?|removed(?:_?(?:at|on))?|trashed(?:_?at)?|is_?deleted|binned(?:_?at)?|'.
        'archived(?:_?at)?|geloescht(?:_?am)?|supprime(?:_?le)?|borrado|eliminado|eliminato|cancellato|verwijderd)$~i';

    public const FROM =
        '~(?:^|_)(?:publish(?:ed)?_?(?:at|on|from|date|up)|starts?(?:_?(?:at|on|date|time))?|valid_?from|'.
        'begins?(?:_?(?:at|on))?|(?:visible|show|live|online)_?from|embargo|'.
        'release(?:_?date)?|ab|von|beginn|debut|desde|inizio|'.
        'vanaf)$~i';

    public const UNTIL =
        '~(?:^|_)(?:(?:publish|published|valid|visible|show|live|online)_?(?:until|to|till|down)|'.
        'ends?(?:_?(?:at|on|date|time))?|'.
        'expir(?:es|ed|y|ation)(?:_?(?:at|on|date))?|until|unpublish(?:_?(?:at|on))?|bis|ende|fin|hasta|fine|tot)$~i';

    public const OLD =
        '~(?:^|_)(?:from|source|src|old|origin(?:al|e)?|origem|request|alte?|ancien(?:ne)?|vie?j[oa]|antig[oa]|'.
        'vecchi[oa]|'.
        'oude?|star[yae]|gam(?:mal|la|le)|vanha)'.
        '(?:_?(?:path|url|uri|address|adres(?:se)?|link))?$~i';

    public const NEW =
        '~(?:^|_)(?:to|target|new|dst|dest(?:ination|ino?)?|goto|location|redirect|neue?|ziel|nouve(?:au|lle)|'.
        'nuev[oa]|'.
        'nov[oa]|nuov[oa]|nieuwe?|now[yae]|nya?|uusi)'.
        '(?:_?(?:path|url|uri|address))?$~i';

    public const CODE = '~(?:^|_)(?:code|status|type|kind|http_?(?:code|status))$~i';

    public const ALT = '~(?:^|_)(?:alt|alt_?text|alternative)$~i';

    public const CAPTION =
        '~(?:^|_)(?:caption|legend|description|desc|legende|beschreibung|bildunterschrift|descripcion|descrizione|'.
        'omschrijving)$~i';

    public const CREDIT = '~(?:^|_)(?:credit|copyright|source|author|photographer)$~i';

    /** What a media row may say, by the names of columns. */
    public const WORDS = [
        'title' => self::TITLE,
        'alt' => self::ALT,
        'caption' => self::CAPTION,
        'credit' => self::CREDIT,
    ];

    private const LIVE = [
        'published',
        'publish',
        'public',
        'live',
        'active',
        'open',
        'online',
        'visible',
        'approved',
        'released',
        'enabled',
        'y',
        'yes',
        'on',
        'out',
        'true',
        't',
        'a',
        'p',
        'inherit',
    ];

    private const FADING = [
        'trash',
        'trashed',
        'deleted',
        'bin',
        'binned',
        'archived',
        'archive',
        'expired',
        'removed',
        'gone',
        'closed',
        'd',
        '-1',
    ];

    /**
     * Whether a name says this, however its words are put together: `lead_image`, `leadImage`, `lead-image`.
     *
     * @param  non-empty-string  $hint one of the patterns above
     */
    public static function say(string $hint, string $name): bool
    {
        $name = self::apart($name);
        $bare = self::withoutLanguage($name);

        return preg_match($hint, $name) === 1 || ($bare !== $name && preg_match($hint, $bare) === 1);
    }

    /** The name that columns for each language share: `title` of `title_en` and `title_cy`. */
    public static function withoutLanguage(string $name): string
    {
        $name = self::apart($name);

        return preg_replace(self::IN_LANGUAGE, '', $name) ?? $name;
    }

    /** A name in small letters, its words apart by underscores. */
    public static function apart(string $name): string
    {
        $apart = preg_replace(['~(?<=[a-z0-9])(?=[A-Z])~', '~(?<=[A-Z])(?=[A-Z][a-z])~'], '_', $name) ?? $name;

        return strtolower(strtr($apart, ['->' => '_', '-' => '_', ' ' => '_', '.' => '_']));
    }

    /** live, waiting or fading for a word that says so; null for a number, or a word of the site's own. */
    public static function state(string $word): ?string
    {
        $word = strtolower(trim($word));

        return match (true) {
            in_array($word, self::LIVE, true) => 'live',
            in_array($word, self::FADING, true) => 'fading',
            preg_match('~^\d+$~', $word) === 1 => null,
            default => 'waiting',
        };
    }

    /** A table's name without what all tables have before it, in the singular. */
    public static function stem(string $table, string $prefix): string
    {
        $bare = self::apart(preg_replace('~^.*\.~', '', $table) ?? $table);
        $bare = str_starts_with($bare, $prefix) && $bare !== $prefix ? substr($bare, strlen($prefix)) : $bare;

        return self::singular($bare);
    }

    /** What a table is called where its columns are named in a map: a name in small letters, before a dot. */
    public static function joinName(string $table, string $prefix): string
    {
        $name = preg_replace('~[^a-z0-9_]~', '_', self::stem($table, $prefix)) ?? '';

        return preg_match('~^[a-z]~', $name) === 1 ? $name : "t$name";
    }

    /**
     * Whether two names mean one thing in a language whose plural is not English: `seite` and `seiten`, `pagina` and
     * `pagine`, `imagen` and `imagenes`.
     */
    public static function alike(string $one, string $other): bool
    {
        if (preg_match(self::MEDIUM, $one) === 1 && preg_match(self::MEDIUM, $other) === 1) {
            return true;
        }
        [$short, $long] = strlen($one) <= strlen($other) ? [$one, $other] : [$other, $one];
        if (preg_match('~.{2}a$~', $short) === 1 && $long === substr($short, 0, -1).'or') {
            // `sida` and `sidor`.
            return true;
        }
        // `persoon` and `personen`: a long vowel is written once where another follows.
        [$short, $long] = [
            preg_replace('~([aeou])\1~', '$1', $short) ?? $short,
            preg_replace('~([aeou])\1~', '$1', $long) ?? $long,
        ];
        if ($short === 'fil' && $long === 'filer') {
            return true;
        }
        $same = strspn($short ^ $long, "\0");

        return strlen($short) >= 4
            && strlen($long) - strlen($short) <= 2
            && $same >= strlen($short) - (strlen($short) === strlen($long) || strlen($short) > 5 ? 1 : 0);
    }

    /** What a column's name says that its keys are of: `page` of `page_id`, `fk_page` and `id_page`. */
    public static function keyOf(string $column): string
    {
        $word = self::apart($column);

        return self::singular(preg_replace(self::MARKS, '', $word) ?? $word);
    }

    public static function singular(string $word): string
    {
        $last = substr($word, (int) strrpos("_$word", '_'));
        if (isset(self::IRREGULAR[$last])) {
            return substr($word, 0, strlen($word) - strlen($last)).self::IRREGULAR[$last];
        }

        return match (true) {
            str_ends_with($word, 'ies') => substr($word, 0, -3).'y',
            preg_match('~(?:ss|us|is|news|media)$~', $word) === 1 => $word,
            preg_match('~(?:x|ch|sh|s)es$~', $word) === 1 => substr($word, 0, -2),
            str_ends_with($word, 's') => substr($word, 0, -1),
            default => $word,
        };
    }

    /**
     * What the names of most tables begin with: a word, or letters that all of them share.
     *
     * @param  list<string>  $tables
     * @return string in small letters, with an underscore behind a word; empty for none
     */
    public static function prefix(array $tables): string
    {
        $prefixes = [];
        foreach ($tables as $table) {
            if (preg_match('~^[a-z0-9]+_~', self::apart($table), $found) === 1) {
                $prefixes[$found[0]] = ($prefixes[$found[0]] ?? 0) + 1;
            }
        }
        arsort($prefixes);
        $first = (string) array_key_first($prefixes);
        if (count($tables) > 2 && $prefixes !== [] && count($tables) < $prefixes[$first] * 2) {
            return $first;
        }
        // Some hands write no sign behind it.
        $letters = '';
        while (true) {
            $next = [];
            foreach ($tables as $table) {
                $name = self::apart($table);
                if (str_starts_with($name, $letters) && strlen($name) > strlen($letters) + 2) {
                    $longer = substr($name, 0, strlen($letters) + 1);
                    $next[$longer] = ($next[$longer] ?? 0) + 1;
                }
            }
            arsort($next);
            $longer = (string) array_key_first($next);
            if ($next === [] || $next[$longer] < self::SHARED * count($tables)) {
                break;
            }
            $letters = $longer;
        }
        $isBeyondChance = (strlen($letters) > 2 && count($tables) > 3) || (strlen($letters) > 1 && count($tables) > 5);

        return $isBeyondChance ? $letters : '';
    }
}
