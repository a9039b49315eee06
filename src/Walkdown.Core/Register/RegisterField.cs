using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>What a column of the register is about.</summary>
public enum FieldOf
{
    Place,
    Unit,
    Port,
    Channel,
    Run,
}

/// <summary>How a cell is read.</summary>
public enum FieldKind
{
    Text,
    Number,
    Whole,
    Word,
    Address,
    HardwareAddress,
    Channels,
    DeviceKind,
}

/// <summary>
/// One column of the register: the same in a schedule that comes in, in the table, as built on the Card, and in what goes out.
/// </summary>
/// <param name="Id">Name of the column in Walkdown's own schedule, such as <c>length_m</c>; never renamed.</param>
/// <param name="Unit">Unit of a number; a cell may carry it, or one that can be turned into it.</param>
/// <param name="Words">The words allowed, for <see cref="FieldKind.Word"/>; the canonical ones.</param>
/// <param name="Most">Most characters of a text.</param>
/// <param name="Headings">Headings that people write over such a column, in any case and punctuation.</param>
public sealed record RegisterField(
    string Id,
    FieldOf Of,
    FieldKind Kind,
    double Min,
    double Max,
    Unit Unit,
    ImmutableArray<string> Words,
    int Most,
    ImmutableArray<string> Headings
)
{
    public string TextKey => "field." + Id;
}

/// <summary>All columns, in the order they are written out.</summary>
public static class RegisterFields
{
    public static readonly ImmutableArray<RegisterField> All =
    [
        Text(
            "label",
            FieldOf.Place,
            40,
            "device",
            "device id",
            "device no",
            "tag",
            "device tag",
            "camera",
            "camera id",
            "camera no",
            "camera number",
            "camera ref",
            "cam",
            "cam no",
            "id",
            "no",
            "nr",
            "number",
            "ref",
            "reference",
            "point",
            "mark"
        ),
        Text(
            "name",
            FieldOf.Place,
            120,
            "description",
            "location",
            "device name",
            "camera name",
            "view",
            "position",
            "place",
            "where",
            "location description",
            "designation"
        ),
        Text("area", FieldOf.Place, 60, "zone", "building", "floor", "level", "block", "section", "region", "site area", "sector"),
        Of("kind", FieldOf.Place, FieldKind.DeviceKind, "type", "device type", "camera type", "category", "form", "style"),
        Text("model", FieldOf.Place, 80, "camera model", "device model", "part", "part no", "part number", "type no", "product"),
        Text("serial", FieldOf.Unit, 60, "serial no", "serial number", "s n", "sn", "ser no"),
        Of(
            "hardware_address",
            FieldOf.Unit,
            FieldKind.HardwareAddress,
            "mac",
            "mac address",
            "hw address",
            "hardware id",
            "physical address",
            "ethernet address"
        ),
        Of("address", FieldOf.Place, FieldKind.Address, "ip", "ip address", "ipv4", "ipv4 address", "network address", "ip addr"),
        Text("cabinet", FieldOf.Port, 40, "rack", "cab", "comms room", "node room", "closet", "fed from", "panel", "enclosure", "hub"),
        Text("switch", FieldOf.Port, 40, "switch name", "network switch", "sw"),
        Whole("port", FieldOf.Port, 1, 512, Unit.None, "switch port", "port no", "port number", "outlet", "patch port", "sw port"),
        Number("source_volts", FieldOf.Port, 1, 120, Unit.Volt, "source voltage", "psu volts", "supply volts"),
        Whole("port_speed_mbps", FieldOf.Port, 10, 10000, Unit.MegabitPerSecond, "port speed"),
        Text("recorder", FieldOf.Channel, 40, "nvr", "dvr", "recorder name", "recording server", "server", "nvr name"),
        Of(
            "channels",
            FieldOf.Channel,
            FieldKind.Channels,
            "channel",
            "ch",
            "chan",
            "channel no",
            "nvr channel",
            "recorder channel",
            "input"
        ),
        Whole("heads", FieldOf.Place, 1, 8, Unit.None, "sensors", "lenses", "pictures", "number of heads", "imagers"),
        Text(
            "run",
            FieldOf.Run,
            40,
            "cable",
            "cable id",
            "cable no",
            "cable number",
            "cable ref",
            "cable tag",
            "run id",
            "link",
            "cable label"
        ),
        Word("configuration", FieldOf.Run, ["permanent-link", "channel"], "link configuration", "test configuration", "link type"),
        Number(
            "length_m",
            FieldOf.Run,
            0.1,
            2000,
            Unit.Metre,
            "length",
            "cable length",
            "run length",
            "length metres",
            "distance",
            "est length",
            "estimated length",
            "len"
        ),
        Number("gauge_awg", FieldOf.Run, 10, 40, Unit.None, "gauge", "awg", "cable gauge", "wire gauge"),
        Word(
            "material",
            FieldOf.Run,
            ["solid-copper", "stranded-copper", "copper-clad-aluminium"],
            "conductor",
            "conductor material",
            "cable material"
        ),
        Word("screened", FieldOf.Run, ["yes", "no"], "shielded", "screen", "shield"),
        Number("temperature_c", FieldOf.Run, -40, 75, Unit.DegreeCelsius, "temperature", "ambient", "route temperature", "temp"),
        Number("cords_m", FieldOf.Run, 0, 100, Unit.Metre, "cords", "patch cords", "patch leads", "cord length"),
        Number("cord_gauge_awg", FieldOf.Run, 22, 28, Unit.None, "cord gauge"),
        Word("scheme", FieldOf.Run, ["A", "B"], "wiring", "wiring scheme", "termination", "pinout"),
        Text("path", FieldOf.Run, 200, "route", "via", "containment", "patch panel", "cable route", "in the path"),
        Text("supply", FieldOf.Port, 60, "power supply", "psu", "power", "power source", "fed by"),
        Number("supply_m", FieldOf.Place, 0, 2000, Unit.Metre, "supply distance", "distance to supply", "psu distance"),
        Whole("power_class", FieldOf.Place, 0, 8, Unit.None, "poe class", "class"),
        Number("watts_infrared_off", FieldOf.Place, 0, 90, Unit.Watt, "watts", "power w", "consumption", "max power", "poe watts", "load"),
        Number("watts_infrared_on", FieldOf.Place, 0, 90, Unit.Watt, "watts ir", "watts ir on", "consumption ir", "power ir on"),
        Whole("speed_mbps", FieldOf.Place, 10, 10000, Unit.MegabitPerSecond, "speed", "link speed", "network speed"),
        Number("x_m", FieldOf.Place, -100_000, 100_000, Unit.Metre, "x", "pos x", "east", "easting"),
        Number("y_m", FieldOf.Place, -100_000, 100_000, Unit.Metre, "y", "pos y", "north", "northing"),
        Number("height_m", FieldOf.Place, 0, 200, Unit.Metre, "height", "mounting height", "mount height", "install height", "h"),
        Word("reach", FieldOf.Place, ["ground", "ladder", "lift"], "access", "access by", "access equipment"),
        Word(
            "mount",
            FieldOf.Place,
            ["surface", "pendant", "wall-arm", "pole", "corner", "eaves", "ceiling-tile", "junction-box", "enclosure"],
            "mounting",
            "bracket",
            "mount type",
            "fixing"
        ),
        Word("cable_entry", FieldOf.Place, ["rear", "side", "conduit"], "entry", "cable entry"),
        Text("features", FieldOf.Place, 120, "options", "extras"),
    ];

    /// <summary>Headings in German, French, Spanish, Italian and Dutch.</summary>
    internal static readonly ImmutableDictionary<string, string[]> OtherLanguages = new Dictionary<string, string[]>
    {
        ["label"] =
        [
            "gerät",
            "gerätenummer",
            "kameranummer",
            "kamera nr",
            "kamera id",
            "gerätebezeichnung",
            "kennung",
            "kennzeichen",
            "betriebsmittel",
            "bmk",
            "nr caméra",
            "n caméra",
            "numéro de caméra",
            "repère",
            "identifiant",
            "appareil",
            "código",
            "número de cámara",
            "n cámara",
            "etiqueta",
            "equipo",
            "identificador",
            "codice",
            "numero telecamera",
            "n telecamera",
            "sigla",
            "dispositivo",
            "identificativo",
            "cameranummer",
            "camera nr",
            "apparaat",
            "kenmerk",
            "apparaatnummer",
        ],
        ["name"] =
        [
            "beschreibung",
            "standort",
            "ort",
            "einbauort",
            "montageort",
            "bezeichnung",
            "blickrichtung",
            "désignation",
            "emplacement",
            "description du lieu",
            "libellé",
            "lieu",
            "descripción",
            "ubicación",
            "nombre",
            "lugar",
            "descrizione",
            "posizione",
            "nome",
            "ubicazione",
            "omschrijving",
            "locatie",
            "plaats",
            "naam",
            "benaming",
        ],
        ["area"] =
        [
            "bereich",
            "gebäude",
            "etage",
            "geschoss",
            "stockwerk",
            "ebene",
            "abschnitt",
            "bâtiment",
            "étage",
            "niveau",
            "secteur",
            "zona",
            "edificio",
            "planta",
            "piso",
            "nivel",
            "sector",
            "piano",
            "livello",
            "settore",
            "gebied",
            "gebouw",
            "verdieping",
            "bouwlaag",
        ],
        ["kind"] =
        [
            "typ",
            "bauart",
            "gerätetyp",
            "kameratyp",
            "art",
            "bauform",
            "type de caméra",
            "type d appareil",
            "catégorie",
            "tipo",
            "tipo de cámara",
            "clase de equipo",
            "tipo di telecamera",
            "tipo telecamera",
            "categoria",
            "soort",
            "cameratype",
            "type camera",
            "uitvoering",
        ],
        ["model"] =
        [
            "modell",
            "artikel",
            "artikelnummer",
            "bestellnummer",
            "fabrikat",
            "modèle",
            "référence produit",
            "modelo",
            "modello",
            "articolo",
            "typenummer",
        ],
        ["serial"] =
        [
            "seriennummer",
            "serien nr",
            "numéro de série",
            "n série",
            "n de serie",
            "número de serie",
            "numero di serie",
            "matricola",
            "serienummer",
        ],
        ["hardware_address"] = ["mac adresse", "adresse mac", "dirección mac", "indirizzo mac", "mac adres"],
        ["address"] = ["ip adresse", "netzwerkadresse", "adresse ip", "dirección ip", "indirizzo ip", "ip adres"],
        ["cabinet"] =
        [
            "schrank",
            "verteiler",
            "verteilerschrank",
            "netzwerkschrank",
            "baie",
            "armoire",
            "coffret",
            "local technique",
            "armario",
            "rack de comunicaciones",
            "armadio",
            "quadro",
            "kast",
            "patchkast",
            "verdeler",
            "netwerkkast",
        ],
        ["switch"] = ["netzwerkswitch", "commutateur", "conmutador", "netwerkswitch"],
        ["port"] =
        [
            "switchport",
            "switch port",
            "anschluss",
            "port du switch",
            "port switch",
            "puerto",
            "puerto de switch",
            "puerto switch",
            "porta",
            "porta switch",
            "poort",
            "switchpoort",
            "poortnummer",
        ],
        ["recorder"] =
        [
            "rekorder",
            "aufzeichnungsgerät",
            "enregistreur",
            "grabador",
            "videograbador",
            "registratore",
            "videoregistratore",
            "recorder naam",
        ],
        ["channels"] = ["kanal", "kanäle", "kanalnummer", "canal", "canaux", "voie", "canales", "canale", "canali", "kanaal", "kanalen"],
        ["run"] =
        [
            "kabel",
            "kabelnummer",
            "kabel nr",
            "kabelkennzeichnung",
            "leitung",
            "câble",
            "n câble",
            "repère câble",
            "n de cable",
            "etiqueta de cable",
            "cavo",
            "n cavo",
            "sigla cavo",
            "kabelkenmerk",
        ],
        ["length_m"] =
        [
            "länge",
            "kabellänge",
            "leitungslänge",
            "entfernung",
            "longueur",
            "longueur de câble",
            "distance",
            "longitud",
            "longitud de cable",
            "distancia",
            "lunghezza",
            "lunghezza cavo",
            "distanza",
            "lengte",
            "kabellengte",
            "afstand",
        ],
        ["gauge_awg"] = ["querschnitt awg", "section awg", "sección awg", "sezione awg"],
        ["material"] = ["leiter", "leitermaterial", "conducteur", "material del conductor", "conduttore", "geleider"],
        ["screened"] =
        [
            "geschirmt",
            "schirm",
            "schirmung",
            "blindé",
            "blindage",
            "écran",
            "apantallado",
            "blindado",
            "schermato",
            "schermatura",
            "afgeschermd",
            "afscherming",
        ],
        ["scheme"] = ["belegung", "verdrahtung", "adernbelegung", "câblage", "cableado", "cablaggio", "aansluitschema", "bedrading"],
        ["path"] =
        [
            "trasse",
            "kabelweg",
            "weg",
            "verlegeweg",
            "cheminement",
            "parcours",
            "passage",
            "recorrido",
            "canalización",
            "percorso",
            "tracé",
            "kabelroute",
        ],
        ["supply"] =
        [
            "netzteil",
            "stromversorgung",
            "spannungsversorgung",
            "speisung",
            "alimentation",
            "fuente",
            "alimentación",
            "fuente de alimentación",
            "alimentatore",
            "alimentazione",
            "voeding",
        ],
        ["height_m"] =
        [
            "höhe",
            "montagehöhe",
            "einbauhöhe",
            "hauteur",
            "hauteur de pose",
            "altura",
            "altura de montaje",
            "altezza",
            "altezza di montaggio",
            "hoogte",
            "montagehoogte",
        ],
        ["reach"] = ["zugang", "aufstiegshilfe", "accès", "moyen d accès", "acceso", "accesso", "bereikbaarheid", "toegang"],
        ["mount"] =
        [
            "befestigung",
            "halterung",
            "montageart",
            "support",
            "fixation",
            "soporte",
            "fijación",
            "staffa",
            "fissaggio",
            "montaggio",
            "bevestiging",
            "beugel",
            "montagewijze",
        ],
        ["power_class"] = ["poe klasse", "leistungsklasse", "classe poe", "clase poe"],
        ["watts_infrared_off"] =
        [
            "leistung",
            "leistungsaufnahme",
            "puissance",
            "consommation",
            "potencia",
            "consumo",
            "potenza",
            "vermogen",
            "verbruik",
        ],
        ["speed_mbps"] = ["geschwindigkeit", "vitesse", "velocidad", "velocità", "snelheid"],
    }.ToImmutableDictionary();

    private static readonly ImmutableDictionary<string, RegisterField> ById = All.ToImmutableDictionary(f => f.Id);

    /// <summary>The column of this name, or null.</summary>
    public static RegisterField? Find(string id) => ById.GetValueOrDefault(id);

    private static RegisterField Text(string id, FieldOf of, int most, params ImmutableArray<string> headings) =>
        new(id, of, FieldKind.Text, 0, 0, Unit.None, [], most, headings);

    private static RegisterField Of(string id, FieldOf of, FieldKind kind, params ImmutableArray<string> headings) =>
        new(id, of, kind, 0, 0, Unit.None, [], 80, headings);

    private static RegisterField Number(string id, FieldOf of, double min, double max, Unit unit, params ImmutableArray<string> headings) =>
        new(id, of, FieldKind.Number, min, max, unit, [], 40, headings);

    private static RegisterField Whole(string id, FieldOf of, double min, double max, Unit unit, params ImmutableArray<string> headings) =>
        new(id, of, FieldKind.Whole, min, max, unit, [], 40, headings);

    private static RegisterField Word(string id, FieldOf of, ImmutableArray<string> words, params ImmutableArray<string> headings) =>
        new(id, of, FieldKind.Word, 0, 0, Unit.None, words, 40, headings);
}
