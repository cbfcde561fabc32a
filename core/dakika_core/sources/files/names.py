"""What people and tools call the columns of their files, in seven languages (common practice, no source).

English, German, Portuguese, Greek, Spanish, French, Turkish. Names are compared by their folded
words; each field's own key is a name of it too. The first name of a field is the most telling.
"""

_POST_METRICS = {
    "impressions": """views; shown; displays; times seen; seen; total impressions; post impressions; view count;
        organic impressions; impression count; impressionen; einblendungen; aufrufe; ansichten; impressões;
        visualizações; exibições; impresiones; visualizaciones; vistas; affichages; vues; gösterim; gösterimler;
        görüntülenme; görüntüleme; εμφανίσεις; προβολές""",
    "reach": """people reached; reached; unique views; unique impressions; viewers; post reach; accounts reached;
        total reach; reichweite; erreichte personen; erreichte konten; alcance; pessoas alcançadas; personas
        alcanzadas; cuentas alcanzadas; portée; personnes touchées; couverture; erişim; erişilen kişi; απήχηση;
        εμβέλεια""",
    "reactions": """likes; like; total reactions; favourites; favorites; favorite count; like count; likes count;
        hearts; thumbs up; claps; gefällt mir; reaktionen; curtidas; gostos; reações; me gusta; reacciones; j'aime;
        réactions; beğeni; beğeniler; beğenme; tepkiler; μου αρέσει; αντιδράσεις""",
    "comments": """replies; answers; total comments; comment count; comments count; reply count; kommentare;
        antworten; comentários; respostas; comentarios; respuestas; commentaires; réponses; yorum; yorumlar;
        yanıtlar; σχόλια; απαντήσεις""",
    "shares": """reposts; reshares; boosts; passed on; forwards; total shares; share count; shares count; repost
        count; forward count; quotes; geteilt; geteilte inhalte; mal geteilt; weiterleitungen; partilhas;
        compartilhamentos; compartidos; veces compartido; reenvíos; partages; paylaşım; paylaşımlar; paylaşma;
        κοινοποιήσεις; αναδημοσιεύσεις""",
    "saves": """saved; save; bookmarks; pins; collected; bookmark count; save count; saves count; gespeichert;
        gemerkt; lesezeichen; guardados; salvamentos; salvos; guardado; enregistrements; signets; kaydetme;
        kaydedilen; kaydedilenler; αποθηκεύσεις""",
    "link_clicks": """clicks; url clicks; clicks on link; outbound clicks; click throughs; link click; url link
        clicks; clicks on links; linkklicks; klicks; klicks auf link; cliques; cliques no link; cliques em links;
        clics; clics en el enlace; clics sur le lien; tıklama; tıklamalar; bağlantı tıklamaları; κλικ; κλικ σε
        σύνδεσμο""",
    "profile_visits": """profile views; profile opens; profile clicks; user profile clicks; profilaufrufe;
        profilbesuche; visitas ao perfil; visitas al perfil; visites du profil; profil ziyaretleri; επισκέψεις
        προφίλ""",
    "video_views": """plays; video plays; play count; video view count; watched; videoaufrufe; wiedergaben;
        visualizações de vídeo; reproduções; reproducciones; reproducciones de video; lectures; vues vidéo; oynatma;
        video izlenme; izlenme; προβολές βίντεο; αναπαραγωγές""",
    "video_seconds": """seconds watched; watch seconds; watch time seconds; watch time; total watch time; time
        watched; wiedergabezeit; tempo de visualização; tempo de exibição; tiempo de visualización; tiempo de
        reproducción; durée de visionnage; izlenme süresi; χρόνος προβολής""",
    "video_completions": """completions; watched to the end; full views; full video views; completed views; video
        completions; vollständige aufrufe; visualizações completas; reproducciones completas; vues complètes""",
    "calls": "phone calls; call clicks; anrufe; chamadas; ligações; llamadas; appels; aramalar; κλήσεις",
    "directions": """direction requests; routes; route requests; wegbeschreibungen; routenanfragen; pedidos de
        direções; rotas; indicaciones; itinéraires; yol tarifi; οδηγίες""",
    "negative": """hides; reports; negative feedback; hidden; negatives feedback; feedback negativo; comentarios
        negativos; avis négatifs; olumsuz geri bildirim; αρνητικά σχόλια""",
    "reactions_like": "plain likes; like reactions",
    "reactions_warmth": "warm reactions; affectionate reactions",
    "reactions_amusement": "amused reactions; laughing reactions",
    "reactions_wonder": "wonder; wonder reactions; amazed reactions",
    "reactions_dismay": "dismay; sad reactions; angry reactions",
    "shares_with_words": "shares with own words; shared with comment; passed on with own words; geteilt mit kommentar",
    "follows": """new followers; followers gained; follows from post; neue follower; novos seguidores; nuevos
        seguidores; nouveaux abonnés; yeni takipçiler; νέοι ακόλουθοι""",
    "unfollows": "followers lost; unfollows from post; verlorene follower; seguidores perdidos; abonnés perdus",
    "bookings": "booked; reservations; appointments; buchungen; reservas; réservations; rezervasyonlar; κρατήσεις",
}
_TIMES = {
    "published_at": """published; publish date; publishing date; publish time; publication date; date; date time;
        posted; posted at; post date; post time; date posted; date published; timestamp; created at; created;
        created time; sent time; sent; when; datum; veröffentlicht; veröffentlicht am; veröffentlichungsdatum;
        erstellt am; zeitpunkt; fecha; fecha de publicación; publicado; publicado en; data; data de publicação; data
        da publicação; publicado em; date de publication; publié le; publié; tarih; yayın tarihi; yayınlanma tarihi;
        paylaşım tarihi; ημερομηνία; ημερομηνία δημοσίευσης; δημοσιεύτηκε""",
    "time": """time; clock; time of day; post time; publish time; hour; uhrzeit; zeit; hora; hora de publicação;
        hora de publicación; heure; heure de publication; saat; ώρα""",
    "taken_at": """exported at; as of; collected at; reading date; snapshot; measured at; read at; export date;
        fetched at; retrieved at; stand; abgerufen am; exportado em; exportado el; exporté le; dışa aktarma tarihi""",
    "day": """date; day; datum; tag; fecha; día; data; dia; jour; tarih; gün; ημερομηνία; ημέρα; timestamp; taken;
        end time""",
}  # fmt: skip
_POSTS = {
    "external_id": """post id; id; content id; message id; item id; status id; media id; identifier; beitrags id;
        beitrag id; kennung; id do post; id da publicação; id de la publicación; identifiant; identifiant de la
        publication; gönderi id; gönderi kimliği; αναγνωριστικό""",
    "text": """post text; message; caption; content; body; post; description; copy; title; post message; full text;
        post content; status; beitragstext; nachricht; beitrag; inhalt; beschreibung; bildunterschrift; texto;
        legenda; mensagem; conteúdo; descrição; publicação; mensaje; contenido; descripción; publicación; texte;
        légende; contenu; publication; metin; açıklama; gönderi; gönderi metni; ileti; κείμενο; μήνυμα; λεζάντα;
        περιγραφή; δημοσίευση""",
    "url": """link; permalink; post url; post link; address; permanent link; web address; beitragslink; adresse;
        beitrags url; endereço; enlace; enlace permanente; dirección; lien; lien permanent; bağlantı; adres; gönderi
        bağlantısı; σύνδεσμος; διεύθυνση""",
    "format": """type; post type; content type; media type; kind; media product type; beitragstyp; art; typ;
        formato; tipo; tipo de post; tipo de publicação; tipo de publicación; format de publication; type de
        publication; tür; gönderi türü; biçim; μορφή; τύπος""",
}
_PROFILES = {
    "profile_network": """network; platform; channel; social network; netzwerk; plattform; kanal; rede; rede
        social; plataforma; canal; red; red social; réseau; plateforme; réseau social; ağ; platform adı; δίκτυο;
        πλατφόρμα""",
    "profile_handle": """handle; profile; account; page; profile name; account name; page name; username; user
        name; account username; screen name; konto; profil; seite; profilname; seitenname; conta; perfil; página;
        nome da página; cuenta; nombre de la cuenta; compte; nom du compte; hesap; hesap adı; kullanıcı adı;
        λογαριασμός; προφίλ; σελίδα""",
    "followers": """fans; subscribers; total followers; follower count; followers total; follower; abonnenten;
        seguidores; total de seguidores; inscritos; abonnés; takipçi; takipçiler; takipçi sayısı; ακόλουθοι;
        followers count; lifetime followers""",
    "following": "follows; following count; gefolgt; abonniert; seguindo; siguiendo; seguidos; takip edilen",
    "posts_total": "posts; post count; beiträge; publicações; publicaciones; publications; gönderiler; δημοσιεύσεις",
    "gained": """new followers; followers gained; new; joined; gained followers; neue follower; gewonnene follower;
        novos seguidores; seguidores ganhos; nuevos seguidores; nouveaux abonnés; yeni takipçi; yeni takipçiler;
        νέοι ακόλουθοι""",
    "lost": """unfollows; followers lost; left; gone; lost followers; unfollowed; entfolgt; verlorene follower;
        seguidores perdidos; deixaram de seguir; dejaron de seguir; abonnés perdus; désabonnements; kaybedilen
        takipçi; takipten çıkan; χαμένοι ακόλουθοι""",
    "reach": """page reach; profile reach; daily reach; account reach; people reached; reached; reichweite;
        alcance; alcance diário; alcance diario; portée; erişim; απήχηση""",
    "impressions": """page impressions; views; daily impressions; profile impressions; impressionen; aufrufe;
        impressões; visualizações; impresiones; visualizaciones; affichages; vues; gösterim; görüntülenme;
        εμφανίσεις; προβολές""",
    "profile_visits": """profile views; page visits; visits; page views; profilaufrufe; profilbesuche;
        seitenaufrufe; visitas ao perfil; visitas al perfil; visitas; visites; visites du profil; profil
        ziyaretleri; ziyaretler; επισκέψεις; επισκέψεις προφίλ""",
}  # fmt: skip
_OTHERS = {
    "dimension": "breakdown; category; attribute; merkmal; dimensão; dimensión; boyut; διάσταση",
    "segment": "value; group; name; bucket; label; gruppe; grupo; segmento; groupe; grup; ομάδα",
    "share": """percent; percentage; count; people; followers; number; anteil; anzahl; prozent; percentagem;
        parcela; porcentaje; cuota; part; pourcentage; yüzde; oran; ποσοστό; μερίδιο""",
    "at": """clicked at; click time; converted at; date; date time; timestamp; time; order date; purchased at;
        when; datum; bestelldatum; zeitpunkt; fecha; data; tarih; ημερομηνία; created at""",
    "code": "short code; slug; short link; link; short; short url; kurzlink; link curto; enlace corto; kısa bağlantı",
    "key": """click id; conversion id; order id; order; order number; transaction id; reference; id; bestellnummer;
        pedido; número do pedido; número de pedido; commande; numéro de commande; sipariş no""",
    "referrer": "referer; source; from; herkunft; origem; origen; kaynak",
    "device": "device type; gerät; dispositivo; appareil; cihaz",
    "is_bot": "bot; robot; is bot",
    "goal": """goal name; conversion; conversion name; kind; event; ziel; meta; objetivo; objectif; hedef; στόχος;
        ereignis; evento; événement""",
    "amount": """value; revenue; total; price; order value; worth; sales; umsatz; betrag; preis; wert; valor;
        receita; preço; importe; ingresos; precio; montant; prix; chiffre d'affaires; tutar; fiyat; gelir; ποσό;
        αξία; έσοδα""",
    "currency": "currency code; währung; moeda; moneda; devise; para birimi; νόμισμα",
    "click": "click id; dk; click identifier",
    "contact": "customer; customer id; contact id; lead; client; kunde; cliente; müşteri; πελάτης",
    "stage": "status; lead stage; state; stufe; etapa; estado; étape; aşama",
}  # fmt: skip
# Words in a column's name that make it another thing than the count itself.
OTHERWISE = frozenset(
    """
rate ratio percent percentage pct ctr cpc cpm cpe cost avg average mean median per index score change growth delta
rang rank quote anteil durchschnitt prozent taxa média custo tasa promedio coste costo taux moyenne coût oran
ortalama maliyet ποσοστό paid target benchmark
""".split()
)


def _listed(words: str) -> tuple[str, ...]:
    return tuple(" ".join(name.split()) for name in words.split(";"))


POST_METRIC_NAMES = {key: _listed(words) for key, words in _POST_METRICS.items()}
TIME_NAMES = {key: _listed(words) for key, words in _TIMES.items()}
POST_NAMES = {key: _listed(words) for key, words in _POSTS.items()}
PROFILE_NAMES = {key: _listed(words) for key, words in _PROFILES.items()}
OTHER_NAMES = {key: _listed(words) for key, words in _OTHERS.items()}
# Formats by their words; what is not among them is asked about.
FORMAT_WORDS = {
    "text": _listed("""text; status; note; words; plain; texto; texte; metin; yazı; κείμενο; nur text; message"""),
    "link": _listed("""link; article; url; shared link; artikel; enlace; artigo; artículo; lien; bağlantı"""),
    "image": _listed("""image; photo; picture; photos; images; single image; static; bild; foto; fotos; imagem;
        imagen; photographie; görsel; fotoğraf; resim; εικόνα; φωτογραφία"""),
    "album": _listed("""album; carousel; gallery; carousel album; multi image; karussell; galerie; galeria;
        galería; carrossel; carrusel; carrousel; albüm; άλμπουμ"""),
    "short_video": _listed("""short video; video; clip; short; vertical video; videos; kurzvideo; vídeo; vídeo
        curto; video corto; vidéo; vidéo courte; kısa video; βίντεο"""),
    "long_video": _listed("""long video; film; long form video; livestream; live video; live; langes video; vídeo
        longo; video largo; vidéo longue; uzun video; μεγάλο βίντεο"""),
}  # fmt: skip
DIMENSION_WORDS = {
    "age": _listed("age; ages; age group; age range; alter; altersgruppe; idade; faixa etária; edad; âge; yaş; ηλικία"),
    "gender": _listed("gender; sex; geschlecht; gênero; género; sexo; genre; sexe; cinsiyet; φύλο"),
    "country": _listed("country; countries; land; länder; país; países; pays; ülke; χώρα"),
    "language": _listed("language; languages; sprache; idioma; língua; langue; dil; γλώσσα"),
    "city": _listed("city; cities; town; stadt; cidade; ciudad; ville; şehir; πόλη"),
    "source": _listed("source; sources; origin; quelle; origem; origen; kaynak; πηγή"),
}
