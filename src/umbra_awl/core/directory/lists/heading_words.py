"""What headings of access points' columns are called in the larger European languages, beside the words of the layout's fields.

General usage: German, French, Spanish, Italian, Dutch and Portuguese, without accents. Words only guess a column; the values
have their say too, and the operator the last.
"""

FURTHER: dict[str, str] = {
    "call": "indicativo nominativo roepletters distintivo",
    "site": "emplacement emplazamiento sitio ubicacion luogo postazione locatie localizacao",
    "place": "region lieu ville lugar ciudad localidad provincia localita comune plaats cidade",
    "rx": "empfang empfangsfrequenz frequenz ausgang sortie reception frequence salida recepcion frecuencia uscita ricezione "
    "frequenza uitgang ontvangst frequentie saida recepcao frequencia",
    "tx": "senden sendefrequenz eingang transmit frequency entree emission entrada emision transmision ingresso trasmissione "
    "ingang zenden zendfrequentie transmissao",
    "offset": "decalage ecart desplazamiento desfase scostamento spostamento verschuiving desvio",
    "sign": "direction richtung sens signe sentido signo direzione segno richting sinal",
    "tone": "ton pilotton rufton ctcss ton tonfrequenz tonalite sous tonalite tono subtono tono subaudio tom subtom toon "
    "subtoon tone tx",
    "tone_kind": "type de tonalite tipo de tono tipo di tono toonsoort tonmodus",
    "tone_rx": "tonsquelch tsql ton rx tonalite rx tono rx tone squelch",
    "color_code": "code couleur codigo de color codice colore kleurcode codigo de cor",
    "mode": "mode modo modalita modus tipo",
    "network": "reseau red rete netwerk rede",
    "width": "largeur ancho larghezza kanalbreite largura",
    "confirmed": "mise a jour fecha actualizado data aggiornato datum bijgewerkt",
    "note": "remarque nota notas observaciones note osservazioni opmerking",
}
