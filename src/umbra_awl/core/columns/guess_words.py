"""Words that headings and values of tables commonly use, for guessing; phrases are separated by a bar. General usage.

Values that are opposites stand at the same place of their lists: who writes “minus” writes “plus”.
"""

from umbra_awl.core.facts.tone_kinds import WORDS
from umbra_awl.core.facts.tones import NO_TONE

HEADINGS: dict[str, str] = {
    "number": "no|nr|number|index|position|channel number|ch|memory number",
    "name": "name|channel name|channel|label|title|alias|zone name|zone|contact name|contact|list name|memory name",
    "channels.number": "no|nr|num|numero|number|index|position|channel number|channel no|channel|ch|memory number|memory|nummer"
    "|kanal|kanalnummer|canal|canale|kanaal|lp|n",
    "channels.name": "name|channel name|channel|label|title|alias|memory name|nom|nombre|nome|naam|bezeichnung|kanalname|canal"
    "|canale|kanaal|nom du canal|nombre del canal|nome canale|kanaalnaam|nome do canal|designation|denominazione",
    "mode": "mode|channel type|type|modulation|kind|channel mode",
    "rx": "rx|rx frequency|receive frequency|receive|rx freq|output frequency|output|downlink|hears|frequency|empfang"
    "|empfangsfrequenz|frequenz|reception|frequence|frequence rx|recepcion|frecuencia|frecuencia rx|ricezione|frequenza"
    "|frequenza rx|ontvangst|ontvangstfrequentie|frequentie|recepcao|frequencia",
    "tx": "tx|tx frequency|transmit frequency|transmit|tx freq|input frequency|input|uplink|sends|senden|sendefrequenz"
    "|emission|frequence tx|frequence emission|transmision|emision|frecuencia tx|trasmissione|frequenza tx|zenden"
    "|zendfrequentie|transmissao|frequencia tx",
    "shift": "shift|duplex|offset direction|shift direction|direction|plus minus|offset sign|sign|richtung|vorzeichen|sens|signe"
    "|sentido|signo|segno|direzione|richting",
    "offset": "offset|shift|signed offset|ablage|decalage|desplazamiento|scostamento",
    "offset_size": "offset size|offset frequency|shift frequency|shift size|offset amount|shift khz",
    "tone_tx": "tone|tx tone|tone tx|encode|ctcss encode|tone encode|tone sent|ctcss dcs encode|access tone|ctcss tx|ton"
    "|subton|pilotton|rufton|ton tx|ctcss|ctcss ton|tonalite|tonalite tx|tono|subtono|tono tx|tono subaudio"
    "|tom|subtom|toon|subtoon|pl|pl tone|transmit tone|send tone",
    "tone_rx": "tone awaited|tone waited for|rx tone|tone rx|decode|ctcss decode|tone decode|tone squelch|squelch tone"
    "|ctcss rx|tonsquelch|ton rx|tonalite rx|tono rx|tsql|receive tone",
    "tone_kind": "tone mode|tone type|kind of tone|tone kind|squelch mode|squelch type|tone squelch mode|ctcss dcs mode|tone"
    "|tonart|type de tonalite|tipo de tono|tipo di tono|signalling|signaling",
    "code_tx": "dcs|dcs code|dtcs|dtcs code|dpl|tx dcs|dcs tx|dcs encode|code sent|dcs sent|digital code",
    "code_rx": "rx dcs|dcs rx|dcs decode|rx dtcs|dtcs rx|dcs awaited|code awaited",
    "code_sense": "dcs polarity|dtcs polarity|polarity|code polarity|dcs sense|sense of the code|dcs inversion",
    "width": "hub|bandbreite|kanalbreite|breite|largeur|ancho|larghezza|width|bandwidth|band width|channel width"
    "|channel spacing|spacing",
    "power": "power|tx power|power level|transmit power|output power|leistung|sendeleistung|puissance|puissance d emission"
    "|potencia|potenza|vermogen|zendvermogen",
    "color_code": "color code|colour code|cc",
    "slot": "slot|time slot|timeslot|ts|repeater slot",
    "contact": "contact|tx contact|contact name|talk group|talkgroup|calls",
    "contact_number": "contact number|contact id|tg|talk group number|talk group id|tg number|tg id|calls number|called id",
    "call_kind": "call type|contact type|call kind|kind of call|call",
    "group_list": "receive group list|group list|rx group list|receive group|rx group",
    "admit": "admit|admit criteria|tx permit|transmit permit|transmit when|busy rule|tx admit",
    "receive_only": "sendesperre|nur empfang|sperre|tx sperre|ptt prohibit|ptt inhibit|ptt lock|tx lock|no tx|solo rx"
    "|solo recepcion"
    "|solo ricezione|alleen ontvangst|reception seule|receive only|rx only|transmit inhibit|tx inhibit|tx prohibit|no transmit",
    "promiscuous": "promiscuous|opens for all|call match off|open",
    "encrypted": "encryption|privacy|encrypted",
    "ur": "ur|your call|call to",
    "rpt1": "rpt1|rpt 1|access repeater",
    "rpt2": "rpt2|rpt 2|gateway",
    "zero_offset": "duplex offset 0|offset 0|zero offset",
    "way": "way|digital way|fusion way",
    "dgid_tx": "dg id|dgid|dg id tx|tx dg id|dg id sent",
    "dgid_rx": "dg id rx|rx dg id|dg id heard",
    "zone": "zone|zones|zone name|zone names|bank|bank name|group|folder",
    "scan": "scan list|scan|scan lists",
    "call": "call id|number|id|dmr id|radio id|call number|calls number|contact id|contact number|tg id|talk group id",
    "kind": "call type|kind|type|call|kind of call|contact type",
    "members": "members|channels|member channels|channel members|contacts|channel list",
    "member": "member|channel|contact|entry",
    "priority": "priority|priority channel",
    "hang": "hang|hang time|stays ms|dwell",
    "room": "room|room number|room id",
    "id": "id|dmr id|radio id",
    "place": "place|city|town",
    "country": "country",
    "contacts.number": "no|nr|index|number",
    "zones.name": "zone|zone name|name",
    "people.name": "name|first name",
    "people.call": "call|call sign|callsign",
}
VALUE_WORDS: dict[str, dict[str, str]] = {
    "mode": {
        "fm": "analog|analogue|nfm|wfm|a|f3e",
        "dmr": "digital|d|tier 2|dmr digital",
        "dstar": "d-star|dv|digital voice",
        "fusion": "c4fm|dn|vw|system fusion",
    },
    "shift": {
        "off": "none|simplex|no|0|rx=tx|-0|s",
        "+": "up|plus|positive|dup+|1",
        "-": "down|minus|negative|dup-|2",
    },
    "width": {
        "narrow": "schmal|etroit|étroit|estrecho|stretto|smal|nfm|fm-n|12.5|12,5|12.5k|12.5 khz|12,5 khz|12.5khz|n|12.50",
        "wide": "breit|large|ancho|largo|breed|wfm|25|25|25k|25 khz|25 khz|25khz|w|25.00",
    },
    "power": {
        "0": "low|l|min|1 w|lowest|ultra low|niedrig|klein|wenig|gering|faible|bas|basse|baja|bajo|bassa|basso|laag|baixa|baixo",
        "1": "mid|medium|middle|m|mittel|moyen|moyenne|media|medio|midden|gemiddeld",
        "2": "high|h|max|5 w|full|hoch|gross|viel|stark|fort|forte|haut|haute|alta|alto|hoog|elevada|elevata",
        "3": "turbo|very high|highest",
    },
    "call_kind": {"group": "group call|g|talk group", "private": "private call|p|individual|individual call"},
    "kind": {"group": "group call|g|talk group", "private": "private call|p|individual|individual call"},
    "admit": {
        "always": "any|none|off|no check|always allow",
        "free": "channel free|idle|clear|busy channel lockout",
        "color": "color code|color code free|same color code|correct color code|different cc",
    },
    "tone_kind": {str(kind): words for kind, words in WORDS.items()},
    "receive_only": {
        "off": "no|0|false|n|disabled|nein|non|nee|não|nao",
        "on": "yes|1|true|y|enabled|x|rx only|ja|oui|si|sí|sim",
    },
    "promiscuous": {"off": "no|0|false|n", "on": "yes|1|true|y|x"},
    "encrypted": {"off": "no|0|false|n|none", "on": "yes|1|true|y|x"},
    "zero_offset": {"off": "no|0|false|n", "on": "yes|1|true|y|x"},
}
NONE_WORDS = NO_TONE | {"null", "--"}
