<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

/** What builders of sites call tables and columns, in their languages; words of one line mean the same. */
final class Words
{
    public const LANGUAGES = ['en', 'en', 'en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'pt', 'sv'];

    /** Tables: one of it, and many; the words of one language apart by `|`, one and many by `/`. */
    private const TABLES = [
        'page' => [
            'en' => 'page/pages|document/documents|content/contents|node/nodes', 'de' => 'seite/seiten',
            'fr' => 'page/pages', 'es' => 'pagina/paginas', 'it' => 'pagina/pagine', 'nl' => 'pagina/paginas',
            'pl' => 'strona/strony', 'pt' => 'pagina/paginas', 'sv' => 'sida/sidor',
        ],
        'news' => [
            'en' => 'post/posts|article/articles|story/stories', 'de' => 'meldung/meldungen|beitrag/beitraege',
            'fr' => 'actualite/actualites|article/articles', 'es' => 'noticia/noticias', 'it' => 'notizia/notizie',
            'nl' => 'bericht/berichten', 'pl' => 'artykul/artykuly', 'pt' => 'noticia/noticias',
            'sv' => 'nyhet/nyheter',
        ],
        'event' => [
            'en' => 'event/events|concert/concerts', 'de' => 'termin/termine', 'fr' => 'evenement/evenements',
            'es' => 'evento/eventos', 'it' => 'evento/eventi', 'nl' => 'evenement/evenementen',
            'pl' => 'wydarzenie/wydarzenia', 'pt' => 'evento/eventos', 'sv' => 'evenemang/evenemang',
        ],
        'product' => [
            'en' => 'product/products|item/items|boat/boats', 'de' => 'produkt/produkte|artikel/artikel',
            'fr' => 'produit/produits', 'es' => 'producto/productos', 'it' => 'prodotto/prodotti',
            'nl' => 'product/producten', 'pl' => 'produkt/produkty', 'pt' => 'produto/produtos',
            'sv' => 'produkt/produkter',
        ],
        'person' => [
            'en' => 'person/people|member/members|staff/staff', 'de' => 'mitarbeiter/mitarbeiter|person/personen',
            'fr' => 'membre/membres', 'es' => 'persona/personas', 'it' => 'persona/persone', 'nl' => 'persoon/personen',
            'pl' => 'osoba/osoby', 'pt' => 'pessoa/pessoas', 'sv' => 'person/personer',
        ],
        'banner' => [
            'en' => 'banner/banners|advert/adverts|promo/promos', 'de' => 'anzeige/anzeigen',
            'fr' => 'banniere/bannieres', 'es' => 'anuncio/anuncios', 'it' => 'annuncio/annunci',
            'nl' => 'advertentie/advertenties', 'pl' => 'baner/banery', 'pt' => 'anuncio/anuncios',
            'sv' => 'annons/annonser',
        ],
        'slot' => [
            'en' => 'slot/slots|zone/zones|region/regions', 'de' => 'platz/plaetze', 'fr' => 'zone/zones',
            'es' => 'zona/zonas', 'it' => 'zona/zone', 'nl' => 'zone/zones', 'pl' => 'strefa/strefy',
            'pt' => 'zona/zonas', 'sv' => 'zon/zoner',
        ],
        'setting' => [
            'en' => 'setting/settings|option/options|config/config|preference/preferences',
            'de' => 'einstellung/einstellungen', 'fr' => 'parametre/parametres', 'es' => 'ajuste/ajustes',
            'it' => 'impostazione/impostazioni', 'nl' => 'instelling/instellingen', 'pl' => 'ustawienie/ustawienia',
            'pt' => 'configuracao/configuracoes', 'sv' => 'installning/installningar',
        ],
        'redirect' => [
            'en' => 'redirect/redirects|moved_page/moved_pages|old_link/old_links', 'de' => 'umleitung/umleitungen',
            'fr' => 'redirection/redirections', 'es' => 'redireccion/redirecciones',
            'it' => 'reindirizzamento/reindirizzamenti', 'nl' => 'omleiding/omleidingen',
            'pl' => 'przekierowanie/przekierowania', 'pt' => 'redirecionamento/redirecionamentos',
            'sv' => 'omdirigering/omdirigeringar',
        ],
        'menu' => [
            'en' => 'menu/menus|nav_item/nav_items', 'de' => 'menue/menues', 'fr' => 'menu/menus', 'es' => 'menu/menus',
            'it' => 'menu/menu', 'nl' => 'menu/menus', 'pl' => 'menu/menu', 'pt' => 'menu/menus', 'sv' => 'meny/menyer',
        ],
        'media' => [
            'en' => 'media/media|file/files|asset/assets|image/images|picture/pictures|upload/uploads|photo/photos',
            'de' => 'datei/dateien|bild/bilder|medium/medien', 'fr' => 'fichier/fichiers|image/images|media/medias',
            'es' => 'archivo/archivos|imagen/imagenes', 'it' => 'immagine/immagini|allegato/allegati',
            'nl' => 'bestand/bestanden|afbeelding/afbeeldingen', 'pl' => 'plik/pliki|obraz/obrazy',
            'pt' => 'arquivo/arquivos|imagem/imagens', 'sv' => 'fil/filer|bild/bilder',
        ],
        'size' => [
            'en' => 'variant/variants|size/sizes|thumb/thumbs|rendition/renditions', 'de' => 'variante/varianten',
            'fr' => 'format/formats', 'es' => 'variante/variantes', 'it' => 'formato/formati',
            'nl' => 'formaat/formaten',
            'pl' => 'wariant/warianty', 'pt' => 'variante/variantes', 'sv' => 'variant/varianter',
        ],
        'version' => [
            'en' => 'version/versions|revision/revisions|history/history', 'de' => 'version/versionen',
            'fr' => 'version/versions|revision/revisions', 'es' => 'version/versiones', 'it' => 'versione/versioni',
            'nl' => 'versie/versies', 'pl' => 'wersja/wersje', 'pt' => 'versao/versoes', 'sv' => 'version/versioner',
        ],
        'attribute' => [
            'en' => 'attribute/attributes|meta/meta|property/properties|field/fields|extra/extra',
            'de' => 'eigenschaft/eigenschaften|feld/felder', 'fr' => 'propriete/proprietes', 'es' => 'campo/campos',
            'it' => 'campo/campi', 'nl' => 'veld/velden', 'pl' => 'pole/pola', 'pt' => 'campo/campos',
            'sv' => 'falt/falt',
        ],
        'wording' => [
            'en' => 'translation/translations|text/texts|locale/locales', 'de' => 'uebersetzung/uebersetzungen',
            'fr' => 'traduction/traductions', 'es' => 'traduccion/traducciones', 'it' => 'traduzione/traduzioni',
            'nl' => 'vertaling/vertalingen', 'pl' => 'tlumaczenie/tlumaczenia', 'pt' => 'traducao/traducoes',
            'sv' => 'oversattning/oversattningar',
        ],
        'comment' => [
            'en' => 'comment/comments|reply/replies', 'de' => 'kommentar/kommentare',
            'fr' => 'commentaire/commentaires',
            'es' => 'comentario/comentarios', 'it' => 'commento/commenti', 'nl' => 'reactie/reacties',
            'pl' => 'komentarz/komentarze', 'pt' => 'comentario/comentarios', 'sv' => 'kommentar/kommentarer',
        ],
        'attachment' => [
            'en' => 'attachment/attachments|usage/usages|placement/placements', 'de' => 'anhang/anhaenge',
            'fr' => 'piece_jointe/pieces_jointes', 'es' => 'adjunto/adjuntos', 'it' => 'allegato/allegati',
            'nl' => 'bijlage/bijlagen', 'pl' => 'zalacznik/zalaczniki', 'pt' => 'anexo/anexos',
            'sv' => 'bilaga/bilagor',
        ],
        'category' => [
            'en' => 'category/categories|section/sections', 'de' => 'rubrik/rubriken', 'fr' => 'rubrique/rubriques',
            'es' => 'categoria/categorias', 'it' => 'categoria/categorie', 'nl' => 'rubriek/rubrieken',
            'pl' => 'kategoria/kategorie', 'pt' => 'categoria/categorias', 'sv' => 'kategori/kategorier',
        ],
        'order' => [
            'en' => 'order/orders|booking/bookings', 'de' => 'bestellung/bestellungen', 'fr' => 'commande/commandes',
            'es' => 'pedido/pedidos', 'it' => 'ordine/ordini', 'nl' => 'bestelling/bestellingen',
            'pl' => 'zamowienie/zamowienia', 'pt' => 'pedido/pedidos', 'sv' => 'bestallning/bestallningar',
        ],
        'vote' => [
            'en' => 'vote/votes|rating/ratings', 'de' => 'bewertung/bewertungen', 'fr' => 'vote/votes',
            'es' => 'voto/votos', 'it' => 'voto/voti', 'nl' => 'stem/stemmen', 'pl' => 'glos/glosy',
            'pt' => 'voto/votos',
            'sv' => 'rost/roster',
        ],
    ];

    /** Columns, in the same way, but for one form only. */
    private const COLUMNS = [
        'title' => 'en:title|name|headline de:titel|ueberschrift fr:titre es:titulo it:titolo nl:titel pl:tytul '
            .'pt:titulo sv:rubrik|titel',
        'name' => 'en:name|label de:name fr:nom es:nombre it:nome nl:naam pl:nazwa pt:nome sv:namn',
        'slug' => 'en:slug|alias|url_name|permalink de:slug|kurzname|alias fr:slug|alias es:slug|alias it:slug nl:slug '
            .'pl:slug|alias pt:slug sv:slug',
        'body' => 'en:body|content|text|html de:inhalt|text|haupttext fr:contenu|texte|corps es:contenido|cuerpo|texto '
            .'it:contenuto|testo nl:inhoud|tekst pl:tresc pt:conteudo|texto sv:innehall|text',
        'intro' => 'en:intro|summary|teaser|lead_text de:vorspann|teaser fr:chapeau|resume es:resumen|entradilla '
            .'it:sommario nl:samenvatting pl:wstep pt:resumo sv:ingress',
        'picture' => 'en:image|picture|photo|main_image|hero|cover|lead|thumb de:bild|titelbild|foto '
            .'fr:image|photo|vignette es:imagen|foto|portada it:immagine|foto|copertina nl:afbeelding|foto '
            .'pl:obraz|zdjecie pt:imagem|foto|capa sv:bild|foto',
        'logo' => 'en:logo|badge|emblem de:logo|wappen fr:logo es:logo|escudo it:logo nl:logo pl:logo pt:logo sv:logo',
        'gallery' => 'en:gallery|photos|images|more_pictures de:galerie|bilder fr:galerie|photos es:galeria|fotos '
            .'it:galleria|foto nl:galerij|fotos pl:galeria pt:galeria|fotos sv:galleri|bilder',
        'file' => 'en:file|filename|path|file_path|location de:datei|dateiname|pfad fr:fichier|chemin|nom_fichier '
            .'es:archivo|ruta|fichero it:file|percorso nl:bestand|pad pl:plik|sciezka pt:arquivo|caminho sv:fil|sokvag',
        'folder' => 'en:folder|dir|directory|subdir de:ordner|verzeichnis fr:dossier|repertoire es:carpeta|directorio '
            .'it:cartella nl:map pl:katalog pt:pasta sv:mapp',
        'ending' => 'en:ext|extension|type|suffix de:endung|typ fr:extension|ext es:extension|ext it:estensione '
            .'nl:extensie pl:rozszerzenie pt:extensao sv:andelse',
        'digest' => 'en:hash|sha1|checksum|digest|md5 de:hash|pruefsumme fr:hash|empreinte es:hash it:hash nl:hash '
            .'pl:hash pt:hash sv:hash',
        'status' => 'en:status|state de:status fr:statut|etat es:estado it:stato nl:status pl:status|stan pt:estado '
            .'sv:status',
        'visible' => 'en:published|active|visible|online|enabled de:aktiv|sichtbar|veroeffentlicht '
            .'fr:actif|visible|publie '
            .'es:activo|visible|publicado it:attivo|visibile nl:actief|zichtbaar pl:aktywny|widoczny '
            .'pt:ativo|publicado '
            .'sv:aktiv|synlig',
        'from' => 'en:published_at|publish_date|start_date|valid_from de:ab|beginn fr:debut|date_debut es:desde|inicio '
            .'it:inizio nl:vanaf pl:od pt:inicio sv:fran',
        'until' => 'en:expires_at|end_date|valid_until de:bis|ende fr:fin|date_fin es:hasta|fin it:fine nl:tot pl:do '
            .'pt:fim sv:till',
        'created' => 'en:created_at|added|created de:angelegt|erstellt fr:cree_le es:creado it:creato nl:gemaakt '
            .'pl:utworzono pt:criado sv:skapad',
        'position' => 'en:position|sort|sort_order|rank|weight|ord de:position|reihenfolge|sortierung '
            .'fr:ordre|position '
            .'es:orden|posicion it:ordine|posizione nl:volgorde|positie pl:kolejnosc|pozycja pt:ordem|posicao '
            .'sv:ordning|position',
        'parent' => 'en:parent|parent_id de:eltern_id|ober_id fr:parent_id es:padre_id it:genitore_id nl:ouder_id '
            .'pl:rodzic_id pt:pai_id sv:foralder_id',
        'language' => 'en:lang|language|locale de:sprache fr:langue es:idioma it:lingua nl:taal pl:jezyk pt:idioma '
            .'sv:sprak',
        'kind' => 'en:type|kind de:typ|art fr:type es:tipo it:tipo nl:soort|type pl:typ pt:tipo sv:typ',
        'value' => 'en:value|val|content de:wert fr:valeur es:valor it:valore nl:waarde pl:wartosc pt:valor sv:varde',
        'key' => 'en:name|key|option_name|setting|code de:name|schluessel fr:cle|nom es:clave|nombre it:chiave|nome '
            .'nl:sleutel|naam pl:klucz|nazwa pt:chave|nome sv:nyckel|namn',
        'alt' => 'en:alt|alt_text de:alt|alternativtext fr:alt es:alt it:alt nl:alt pl:alt pt:alt sv:alt',
        'width' => 'en:width|w de:breite fr:largeur es:ancho it:larghezza nl:breedte pl:szerokosc pt:largura sv:bredd',
        'height' => 'en:height|h de:hoehe fr:hauteur es:alto it:altezza nl:hoogte pl:wysokosc pt:altura sv:hojd',
        'bytes' => 'en:size|filesize|bytes de:groesse fr:taille es:tamano it:dimensione nl:grootte pl:rozmiar '
            .'pt:tamanho sv:storlek',
        'link' => 'en:link|url|href|target_url de:link|ziel fr:lien|url es:enlace|url it:link|url nl:link|url '
            .'pl:link|url pt:link|url sv:lank|url',
        'email' => 'en:email|mail de:email fr:email|courriel es:correo it:email nl:email pl:email pt:email sv:epost',
        'price' => 'en:price|amount de:preis fr:prix es:precio it:prezzo nl:prijs pl:cena pt:preco sv:pris',
        'score' => 'en:score|stars|points de:punkte|sterne fr:note|points es:puntos it:punti nl:punten pl:punkty '
            .'pt:pontos sv:poang',
        'blocks' => 'en:blocks|layout|sections|data|builder de:bloecke|aufbau fr:blocs es:bloques it:blocchi '
            .'nl:blokken '
            .'pl:bloki pt:blocos sv:block',
        'extra' => 'en:extra|params|options|settings de:extra|optionen fr:parametres|options es:opciones it:opzioni '
            .'nl:opties pl:opcje pt:opcoes sv:tillval',
        'old' => 'en:old_url|source|from_path|old de:alt|alte_adresse fr:ancien|ancienne_url es:viejo|origen '
            .'it:vecchio nl:oud|oude_url pl:stary|stary_url pt:antigo|origem sv:gammal',
        'new' => 'en:new_url|target|to_path|new de:neu|neue_adresse fr:nouveau|nouvelle_url es:nuevo|destino it:nuovo '
            .'nl:nieuw|nieuwe_url pl:nowy|nowy_url pt:novo|destino sv:ny',
        'group' => 'en:section|grp|context de:bereich|gruppe fr:groupe es:grupo it:gruppo nl:groep pl:grupa pt:grupo '
            .'sv:grupp',
        'author' => 'en:author|editor de:autor fr:auteur es:autor it:autore nl:auteur pl:autor pt:autor sv:forfattare',
        'amount' => 'en:quantity|qty de:menge fr:quantite es:cantidad it:quantita nl:aantal pl:ilosc pt:quantidade '
            .'sv:antal',
        'hits' => 'en:hits|views de:aufrufe fr:vues es:visitas it:visite nl:weergaven pl:odslony pt:visitas '
            .'sv:visningar',
    ];

    /** @return array{string, string} one of it, and many */
    public static function table(string $meaning, string $language, Draw $draw): array
    {
        $words = self::TABLES[$meaning][$language] ?? $meaning;
        [$one, $many] = explode('/', $draw->one(explode('|', $words)));

        return [$one, $many];
    }

    public static function column(string $meaning, string $language, Draw $draw): string
    {
        foreach (explode(' ', self::COLUMNS[$meaning] ?? "$language:$meaning") as $own) {
            if (str_starts_with($own, "$language:")) {
                return $draw->one(explode('|', substr($own, strlen($language) + 1)));
            }
        }

        return $meaning;
    }
}
