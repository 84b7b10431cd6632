/*
 * Words of the trade in German, French, Spanish and Italian, turned into the English terms the reader knows (common
 * practice: general technical vocabulary). Each replaces the whole word or phrase; longer phrases stand before their parts.
 * Matching is by letters of any alphabet, so that a word that only contains another is left alone.
 */
type Entry = readonly [string, string];

const german: readonly Entry[] = [
  ['einspritz(?:ventil|düse|duese)e?n?|einspritzung|ev(?=\\s*\\d)', 'injector'],
  ['zünd(?:spule|ausgang|endstufe|ung)?n?|zuend(?:spule|ausgang|endstufe|ung)?n?', 'ignition coil'],
  ['kurbelwellen?(?:sensor|geber)?|drehzahlgeber|bezugsmarkengeber', 'crank sensor'],
  ['nockenwellen?(?:sensor|geber)?|phasengeber', 'cam sensor'],
  ['klopfsensor(?:en)?|klopfgeber', 'knock sensor'],
  [
    'kühl(?:mittel|wasser)-?temp(?:eratur)?(?:sensor|fühler|geber)?|kuehl(?:mittel|wasser)-?temp(?:eratur)?(?:sensor|fuehler|geber)?|motortemp(?:eratur)?|wassertemp(?:eratur)?(?:sensor|fühler|geber)?',
    'coolant temperature',
  ],
  ['(?:ansaug)?luft-?temp(?:eratur)?(?:sensor|fühler|fuehler|geber)?|ansaugtemp(?:eratur)?', 'air temperature'],
  ['öl-?temp(?:eratur)?(?:sensor|fühler|geber)?|oel-?temp(?:eratur)?(?:sensor|geber)?', 'oil temperature'],
  ['öldruck(?:sensor|geber)?|oeldruck(?:sensor|geber)?', 'oil pressure sensor'],
  ['kraftstoffdruck(?:sensor|geber)?|benzindruck(?:sensor|geber)?', 'fuel pressure sensor'],
  ['saugrohrdruck(?:sensor|geber)?|ladedruck(?:sensor|geber)|druckfühler', 'manifold pressure sensor'],
  ['ladedruck(?:regel)?(?:ventil|steuerung|regelung)|taktventil', 'boost solenoid'],
  ['ladedruck', 'manifold pressure'],
  ['(?:kraftstoff|benzin|sprit)pumpen?-?relais', 'fuel pump relay'],
  ['(?:kraftstoff|benzin|sprit)pumpe', 'fuel pump'],
  ['haupt-?relais(?:\\s*(?:ansteuerung|steuerung))?', 'main relay'],
  ['(?:kühler)?lüfter(?:motor)?-?relais|luefter-?relais|gebläse-?relais', 'fan relay'],
  ['(?:kühler|elektro)?lüfter|luefter|gebläse', 'fan'],
  ['leerlauf(?:regel)?(?:ventil|steller|regler|stellventil)?', 'idle valve'],
  ['drosselklappen?-?(?:motor|steller|stellmotor)', 'throttle motor'],
  ['drosselklappen?(?:potentiometer|poti|sensor|geber|winkel|stellung)?', 'throttle position'],
  ['(?:fahr|gas)pedal(?:geber|sensor|poti|stellung)?', 'pedal position'],
  ['lambda-?sonde|breitband-?sonde', 'lambda sensor'],
  ['sonden?-?heizung', 'lambda heater'],
  ['luftmassen(?:messer|sensor)|lmm', 'air mass sensor'],
  ['geschwindigkeit(?:s(?:signal|sensor|geber))?|tacho-?signal|wegstrecke', 'vehicle speed'],
  ['drehzahl(?:messer|signal|ausgang)?(?:\\s*(?:ausgang|anzeige))?', 'tacho output'],
  ['motor-?(?:kontroll|warn)(?:leuchte|lampe)|kontroll(?:leuchte|lampe)|warn(?:leuchte|lampe)', 'warning lamp'],
  ['kupplungs?-?(?:schalter|pedalschalter)?', 'clutch switch'],
  ['brems(?:licht)?-?(?:schalter|pedalschalter)', 'brake switch'],
  ['leerlaufschalter', 'idle switch'],
  ['neutral-?schalter', 'neutral switch'],
  ['start(?:er)?-?(?:taster|knopf|signal)', 'start button'],
  ['anlasser-?relais|starter-?relais', 'starter relay'],
  ['anlasser', 'starter'],
  ['lichtmaschine|generator', 'alternator'],
  ['klima(?:anlage|kompressor)?(?:-?(?:relais|kupplung))?', 'a/c compressor'],
  ['tankentlüftung(?:sventil)?|aktivkohlefilter(?:ventil)?', 'purge valve'],
  ['nockenwellen(?:versteller|verstellung)', 'vvt solenoid'],
  ['schrittmotor', 'stepper motor'],
  ['wasserpumpe', 'water pump'],
  ['abgastemp(?:eratur)?(?:sensor|fühler)?', 'egt'],
  ['thermoelement', 'thermocouple'],
  ['sensor-?masse|geber-?masse|signal-?masse|masse\\s*(?:sensoren|sensorik|geber)|analog-?masse', 'sensor ground'],
  [
    'leistungs-?masse|motor-?masse|last-?masse|masse\\s*(?:leistung|motor|endstufen)|batterie\\s*-?minus|batterie\\s*[-–]',
    'power ground',
  ],
  ['masse', 'ground'],
  [
    '(?:kl(?:emme)?\\.?\\s*30|dauerplus|dauer-?spannung|dauer-?strom|batterie\\s*-?plus|batterie\\s*\\+|dauer\\s*\\+)',
    'permanent supply',
  ],
  [
    '(?:kl(?:emme)?\\.?\\s*15|zündungs?-?plus|zuendungs?-?plus|zündung\\s*(?:ein|an)|geschaltet(?:es)?\\s*plus|schaltplus)',
    'switched supply',
  ],
  [
    '(?:5\\s*v(?:olt)?\\s*)?(?:sensor|geber)-?(?:versorgung|speisung|spannung)|versorgung\\s*(?:sensoren|geber)',
    '5 V sensor supply',
  ],
  ['spannungsversorgung|versorgungsspannung|stromversorgung|versorgung', 'supply in'],
  ['hall-?(?:geber|sensor)', 'hall sensor'],
  ['induktiv(?:er|es|e)?(?:\\s*(?:geber|sensor))?|induktivgeber', 'VR'],
  ['(?:analog|analoger)-?\\s*eing(?:ang|änge)', 'analog input'],
  ['(?:digital|schalt|digitaler)-?\\s*eing(?:ang|änge)', 'switch input'],
  ['frequenz-?\\s*eing(?:ang|änge)', 'frequency input'],
  ['temperatur-?\\s*eing(?:ang|änge)', 'temperature input'],
  ['eing(?:ang|änge)', 'input'],
  ['(?:schalt|digital|universal|leistungs|masse)-?\\s*ausg(?:ang|änge)', 'low side output'],
  ['plus-?ausg(?:ang|änge)|ausg(?:ang|änge)\\s*plusschaltend|plusschaltend', 'high side output'],
  ['masseschaltend', 'low side'],
  ['ausg(?:ang|änge)', 'output'],
  ['endstufe', 'driver'],
  ['temperatur', 'temperature'],
  ['druck', 'pressure'],
  ['schalter', 'switch'],
  ['ventil', 'valve'],
  ['pumpe', 'pump'],
  ['relais', 'relay'],
  ['sensor|geber|fühler', 'sensor'],
  ['tank(?:füll)?(?:stand|geber)', 'fuel level'],
  ['batterie(?:spannung)?', 'battery'],
  ['über|ueber|vom', 'via'],
  ['stecker', 'connector'],
];

const french: readonly Entry[] = [
  ['injecteurs?|injection', 'injector'],
  ["bobines?(?:\\s*(?:d['’]\\s*)?allumage)?", 'ignition coil'],
  ['(?:\\+\\s*)?apr[eè]s[\\s-]*contact|\\+\\s*apc|apc|contact\\s*\\+', 'switched supply'],
  [
    '(?:\\+\\s*)?(?:permanent|avant[\\s-]*contact)|\\+\\s*(?:bat|batterie)|batterie\\s*\\+|\\+\\s*avc',
    'permanent supply',
  ],
  ['allumage', 'ignition'],
  [
    '(?:capteur\\s*)?(?:de\\s*)?(?:position\\s*)?vilebrequin|capteur\\s*(?:de\\s*)?(?:pmh|r[eé]gime)(?:\\s*moteur)?|(?:capteur\\s*)?pmh',
    'crank sensor',
  ],
  [
    "(?:capteur\\s*)?(?:d['’]\\s*|de\\s*)?(?:position\\s*)?arbre\\s*[àa]\\s*cames?|capteur\\s*(?:de\\s*)?phase",
    'cam sensor',
  ],
  ['(?:capteur\\s*(?:de\\s*)?)?cliquetis', 'knock sensor'],
  [
    "(?:sonde\\s*)?temp(?:[eé]rature)?\\s*(?:d['’]\\s*|de\\s*)?(?:liquide(?:\\s*(?:de\\s*)?refroidissement)?|eau|moteur)",
    'coolant temperature',
  ],
  [
    "(?:sonde\\s*)?temp(?:[eé]rature)?\\s*(?:d['’]\\s*|de\\s*l['’]\\s*)?(?:air|admission)(?:\\s*admission)?",
    'air temperature',
  ],
  ["temp(?:[eé]rature)?\\s*(?:d['’]\\s*)?huile", 'oil temperature'],
  ["(?:capteur\\s*(?:de\\s*)?)?pression\\s*(?:d['’]\\s*)?huile", 'oil pressure sensor'],
  ["(?:capteur\\s*(?:de\\s*)?)?pression\\s*(?:d['’e]?\\s*)?(?:essence|carburant)", 'fuel pressure sensor'],
  [
    "(?:capteur\\s*(?:de\\s*)?)?pression\\s*(?:d['’e]?\\s*)?(?:admission|collecteur|tubulure|suralimentation)",
    'manifold pressure sensor',
  ],
  ['(?:relais\\s*(?:de\\s*)?)pompe\\s*(?:[àa]\\s*)?(?:essence|carburant)', 'fuel pump relay'],
  ['pompe\\s*(?:[àa]\\s*)?(?:essence|carburant)', 'fuel pump'],
  ['pompe\\s*(?:[àa]\\s*)?eau', 'water pump'],
  ['relais\\s*principal', 'main relay'],
  ['relais\\s*(?:de\\s*|du\\s*)?(?:moto)?ventilateur', 'fan relay'],
  ['(?:moto)?ventilateur|gmv', 'fan'],
  ['(?:vanne|actuateur|[eé]lectrovanne|r[eé]gulateur)\\s*(?:de\\s*)?ralenti|ralenti', 'idle valve'],
  ['(?:[eé]lectrovanne|vanne)\\s*(?:de\\s*)?(?:suralimentation|turbo|wastegate)', 'boost solenoid'],
  ['(?:[eé]lectrovanne|vanne)\\s*(?:de\\s*)?(?:purge\\s*)?canister', 'purge valve'],
  ['[eé]lectrovanne', 'solenoid valve'],
  ['moteur\\s*(?:de\\s*)?papillon|papillon\\s*motoris[eé]', 'throttle motor'],
  ['(?:potentiom[eè]tre\\s*|capteur\\s*|position\\s*)?(?:de\\s*|du\\s*)?papillon', 'throttle position'],
  ["(?:capteur\\s*)?p[eé]dale(?:\\s*(?:d['’]\\s*)?acc[eé]l[eé]rateur)?", 'pedal position'],
  ['sonde\\s*(?:[àa]\\s*)?(?:lambda|oxyg[eè]ne)', 'lambda sensor'],
  ['(?:chauffage|r[eé]chauffage)\\s*(?:de\\s*)?(?:sonde|lambda)(?:\\s*lambda)?', 'lambda heater'],
  ["d[eé]bitm[eè]tre(?:\\s*(?:d['’]\\s*)?air)?", 'air mass sensor'],
  ['vitesse(?:\\s*(?:du\\s*)?v[eé]hicule)?', 'vehicle speed'],
  ['compte[\\s-]*tours', 'tacho output'],
  ['(?:voyant|t[eé]moin)(?:\\s*(?:de\\s*)?(?:moteur|d[eé]faut|alerte))?', 'warning lamp'],
  ["(?:contacteur|capteur)\\s*(?:d['’]\\s*)?embrayage|embrayage", 'clutch switch'],
  ['(?:contacteur|capteur)\\s*(?:de\\s*)?frein|frein', 'brake switch'],
  ['point\\s*mort', 'neutral switch'],
  ['bouton\\s*(?:de\\s*)?d[eé]marr(?:age|eur)', 'start button'],
  ['relais\\s*(?:de\\s*|du\\s*)?d[eé]marreur', 'starter relay'],
  ['d[eé]marreur', 'starter'],
  ['alternateur', 'alternator'],
  ['(?:compresseur\\s*(?:de\\s*)?)?clim(?:atisation)?', 'a/c compressor'],
  ['moteur\\s*pas[\\s-]*[àa][\\s-]*pas', 'stepper motor'],
  ['masse\\s*(?:des?\\s*)?(?:capteurs?|sondes?|signal|analogique)', 'sensor ground'],
  ['masse\\s*(?:de\\s*)?(?:puissance|moteur|ch[aâ]ssis)|batterie\\s*[-–]', 'power ground'],
  ['masse', 'ground'],
  [
    'alim(?:entation)?\\s*(?:des?\\s*)?(?:capteurs?|sondes?)(?:\\s*5\\s*v)?|(?:\\+\\s*)?5\\s*v\\s*capteurs?',
    '5 V sensor supply',
  ],
  ['alim(?:entation)?', 'supply'],
  ['entr[eé]e\\s*analogique', 'analog input'],
  ['entr[eé]e\\s*(?:logique|num[eé]rique|tout[\\s-]*ou[\\s-]*rien|tor)', 'switch input'],
  ['entr[eé]e\\s*(?:de\\s*)?fr[eé]quence', 'frequency input'],
  ['entr[eé]e', 'input'],
  ['sortie\\s*(?:de\\s*)?(?:puissance|commande|auxiliaire|tor)', 'low side output'],
  ['sortie', 'output'],
  ['thermocouple', 'thermocouple'],
  ["temp(?:[eé]rature)?\\s*(?:des?\\s*)?(?:gaz\\s*(?:d['’]\\s*)?)?[eé]chappement", 'egt'],
  ['inductif', 'VR'],
  ['temp[eé]rature', 'temperature'],
  ['pression', 'pressure'],
  ['pompe', 'pump'],
  ['relais', 'relay'],
  ['capteur|sonde', 'sensor'],
  ['par(?=\\s+(?:le\\s+)?relais)|depuis', 'via'],
  ['connecteur', 'connector'],
];

const spanish: readonly Entry[] = [
  ['inyector(?:es)?|inyecci[oó]n', 'injector'],
  ['bobinas?(?:\\s*de\\s*encendido)?', 'ignition coil'],
  [
    '(?:positivo|alimentaci[oó]n|\\+)\\s*(?:de\\s*|bajo\\s*|con\\s*|por\\s*)?(?:contacto|llave)|contacto',
    'switched supply',
  ],
  [
    '(?:positivo|alimentaci[oó]n|\\+)\\s*(?:permanente|directo|de\\s*bater[ií]a)|bater[ií]a\\s*\\+|permanente',
    'permanent supply',
  ],
  ['encendido', 'ignition'],
  ['(?:sensor\\s*(?:de\\s*)?)?cig[uü]e[ñn]al|sensor\\s*(?:de\\s*)?(?:revoluciones|giro|rpm)', 'crank sensor'],
  ['(?:sensor\\s*(?:de\\s*)?)?[aá]rbol\\s*de\\s*levas', 'cam sensor'],
  ['(?:sensor\\s*(?:de\\s*)?)?(?:detonaci[oó]n|picado)', 'knock sensor'],
  ['(?:sensor\\s*(?:de\\s*)?)?temp(?:eratura)?\\s*(?:del?\\s*)?(?:refrigerante|agua|motor)', 'coolant temperature'],
  ['(?:sensor\\s*(?:de\\s*)?)?temp(?:eratura)?\\s*(?:del?\\s*)?(?:aire|admisi[oó]n)', 'air temperature'],
  ['temp(?:eratura)?\\s*(?:del?\\s*)?aceite', 'oil temperature'],
  ['(?:sensor\\s*(?:de\\s*)?)?presi[oó]n\\s*(?:del?\\s*)?aceite', 'oil pressure sensor'],
  ['(?:sensor\\s*(?:de\\s*)?)?presi[oó]n\\s*(?:del?\\s*)?(?:combustible|gasolina)', 'fuel pressure sensor'],
  [
    '(?:sensor\\s*(?:de\\s*)?)?presi[oó]n\\s*(?:del?\\s*)?(?:colector|admisi[oó]n|m[uú]ltiple|turbo)',
    'manifold pressure sensor',
  ],
  ['rel[eé]\\s*(?:de\\s*(?:la\\s*)?)?bomba\\s*(?:de\\s*)?(?:combustible|gasolina)', 'fuel pump relay'],
  ['bomba\\s*(?:de\\s*)?(?:combustible|gasolina)', 'fuel pump'],
  ['bomba\\s*(?:de\\s*)?agua', 'water pump'],
  ['rel[eé]\\s*principal', 'main relay'],
  ['rel[eé]\\s*(?:del?\\s*)?(?:electro)?ventilador', 'fan relay'],
  ['(?:electro)?ventilador', 'fan'],
  ['(?:v[aá]lvula|motor)?\\s*(?:de\\s*)?ralent[ií]', 'idle valve'],
  ['motor\\s*(?:de\\s*la\\s*|de\\s*)?mariposa', 'throttle motor'],
  ['(?:sensor\\s*|posici[oó]n\\s*)?(?:de\\s*la\\s*|de\\s*)?mariposa', 'throttle position'],
  ['pedal(?:\\s*(?:del?\\s*)?acelerador)?', 'pedal position'],
  ['sonda\\s*(?:lambda|de\\s*ox[ií]geno)', 'lambda sensor'],
  ['calefactor\\s*(?:de\\s*(?:la\\s*)?)?(?:sonda|lambda)(?:\\s*lambda)?', 'lambda heater'],
  ['caudal[ií]metro|(?:sensor\\s*)?masa\\s*de\\s*aire', 'air mass sensor'],
  ['velocidad(?:\\s*(?:del?\\s*)?veh[ií]culo)?', 'vehicle speed'],
  ['cuenta\\s*(?:revoluciones|vueltas)|tac[oó]metro', 'tacho output'],
  ['(?:testigo|l[aá]mpara|luz)(?:\\s*(?:de\\s*)?(?:motor|aviso|aver[ií]a))?', 'warning lamp'],
  ['(?:interruptor\\s*(?:de\\s*)?)?embrague', 'clutch switch'],
  ['(?:interruptor\\s*(?:de\\s*)?)?freno', 'brake switch'],
  ['punto\\s*muerto', 'neutral switch'],
  ['(?:bot[oó]n|pulsador)\\s*(?:de\\s*)?arranque', 'start button'],
  ['rel[eé]\\s*(?:de\\s*)?arranque', 'starter relay'],
  ['motor\\s*de\\s*arranque', 'starter'],
  ['alternador', 'alternator'],
  ['(?:compresor\\s*(?:de\\s*)?)?aire\\s*acondicionado', 'a/c compressor'],
  ['motor\\s*paso\\s*a\\s*paso', 'stepper motor'],
  ['(?:masa|tierra)\\s*(?:de\\s*(?:los\\s*)?)?(?:sensor(?:es)?|se[ñn]al|anal[oó]gica)', 'sensor ground'],
  ['(?:masa|tierra)\\s*(?:de\\s*)?(?:potencia|motor|chasis)|bater[ií]a\\s*[-–]', 'power ground'],
  ['masa|tierra', 'ground'],
  [
    'alimentaci[oó]n\\s*(?:de\\s*)?(?:5\\s*v\\s*)?(?:de\\s*)?sensor(?:es)?(?:\\s*5\\s*v)?|5\\s*v\\s*sensores',
    '5 V sensor supply',
  ],
  ['alimentaci[oó]n', 'supply'],
  ['entrada\\s*anal[oó]gica', 'analog input'],
  ['entrada\\s*(?:digital|l[oó]gica)', 'switch input'],
  ['entrada\\s*(?:de\\s*)?frecuencia', 'frequency input'],
  ['entrada', 'input'],
  ['salida\\s*(?:de\\s*)?(?:potencia|rel[eé]|auxiliar|digital)', 'low side output'],
  ['salida', 'output'],
  ['termopar', 'thermocouple'],
  ['temp(?:eratura)?\\s*(?:de(?:l|\\s*gases\\s*de)?\\s*)?escape', 'egt'],
  ['inductivo', 'VR'],
  [
    '(?:v[aá]lvula|electrov[aá]lvula|solenoide)\\s*(?:de\\s*)?(?:turbo|sobrealimentaci[oó]n|wastegate)',
    'boost solenoid',
  ],
  ['(?:electro)?v[aá]lvula', 'valve'],
  ['temperatura', 'temperature'],
  ['presi[oó]n', 'pressure'],
  ['bomba', 'pump'],
  ['bater[ií]a', 'battery'],
  ['desde|a\\s*trav[eé]s', 'via'],
  ['rel[eé]', 'relay'],
  ['conector', 'connector'],
];

const italian: readonly Entry[] = [
  ['iniettor[ei]|iniezione', 'injector'],
  ['bobin[ae](?:\\s*(?:di\\s*)?accensione)?', 'ignition coil'],
  ['(?:positivo|alimentazione|\\+)?\\s*(?:sotto\\s*(?:chiave|quadro)|sottochiave|sottoquadro)', 'switched supply'],
  ['(?:positivo|alimentazione|\\+)\\s*(?:permanente|diretta|diretto|batteria)|batteria\\s*\\+', 'permanent supply'],
  ['accensione', 'ignition'],
  ['(?:sensore\\s*(?:di\\s*)?)?(?:giri(?:\\s*motore)?|albero\\s*motore)', 'crank sensor'],
  ['(?:sensore\\s*(?:di\\s*)?)?(?:fase|albero\\s*a\\s*camme)', 'cam sensor'],
  ['(?:sensore\\s*(?:di\\s*)?)?(?:detonazione|battito)', 'knock sensor'],
  [
    "(?:sensore\\s*)?temp(?:eratura)?\\s*(?:dell['’]\\s*|del\\s*)?(?:acqua|liquido(?:\\s*(?:di\\s*)?raffreddamento)?|motore)",
    'coolant temperature',
  ],
  ["(?:sensore\\s*)?temp(?:eratura)?\\s*(?:dell['’]\\s*)?(?:aria|aspirazione)", 'air temperature'],
  ["temp(?:eratura)?\\s*(?:dell['’]\\s*)?olio", 'oil temperature'],
  ["(?:sensore\\s*)?pressione\\s*(?:dell['’]\\s*)?olio", 'oil pressure sensor'],
  ['(?:sensore\\s*)?pressione\\s*(?:del\\s*)?(?:carburante|benzina)', 'fuel pressure sensor'],
  ['(?:sensore\\s*)?pressione\\s*(?:del\\s*)?(?:collettore|aspirazione|turbo)', 'manifold pressure sensor'],
  ['rel[eèé]\\s*(?:della\\s*)?pompa\\s*(?:della\\s*)?(?:carburante|benzina)', 'fuel pump relay'],
  ['pompa\\s*(?:della\\s*)?(?:carburante|benzina)', 'fuel pump'],
  ["pompa\\s*(?:dell['’]\\s*)?acqua", 'water pump'],
  ['rel[eèé]\\s*principale', 'main relay'],
  ['rel[eèé]\\s*(?:della\\s*)?(?:elettro)?ventola', 'fan relay'],
  ['(?:elettro)?ventola', 'fan'],
  ['(?:valvola|attuatore)?\\s*(?:del\\s*)?minimo', 'idle valve'],
  ['motore\\s*(?:della\\s*)?farfalla|farfalla\\s*motorizzata', 'throttle motor'],
  ['(?:potenziometro\\s*|sensore\\s*|posizione\\s*)?(?:della\\s*)?farfalla', 'throttle position'],
  ["pedale(?:\\s*(?:dell[’']\\s*)?acceleratore)?", 'pedal position'],
  ['sonda\\s*(?:lambda|ossigeno)', 'lambda sensor'],
  ['riscaldat(?:ore|rice)\\s*(?:della\\s*)?(?:sonda|lambda)(?:\\s*lambda)?', 'lambda heater'],
  ['debimetro|misuratore\\s*massa\\s*aria', 'air mass sensor'],
  ['velocit[aà](?:\\s*(?:del\\s*)?veicolo)?', 'vehicle speed'],
  ['contagiri', 'tacho output'],
  ['spia(?:\\s*(?:motore|avaria))?', 'warning lamp'],
  ['(?:interruttore\\s*)?(?:della\\s*)?frizione', 'clutch switch'],
  ['(?:interruttore\\s*)?(?:del\\s*)?freno', 'brake switch'],
  ['(?:interruttore\\s*)?folle', 'neutral switch'],
  ['pulsante\\s*(?:di\\s*)?avviamento', 'start button'],
  ['rel[eèé]\\s*(?:di\\s*)?avviamento', 'starter relay'],
  ['motorino\\s*(?:di\\s*)?avviamento', 'starter'],
  ['alternatore', 'alternator'],
  ['(?:compressore\\s*)?(?:climatizzatore|condizionatore)', 'a/c compressor'],
  ['motore\\s*passo[\\s-]*passo', 'stepper motor'],
  ['massa\\s*(?:dei\\s*)?(?:sensor[ei]|segnale|analogica)', 'sensor ground'],
  ['massa\\s*(?:di\\s*)?(?:potenza|motore|telaio)|batteria\\s*[-–]', 'power ground'],
  ['massa', 'ground'],
  ['alimentazione\\s*(?:dei\\s*)?sensor[ei](?:\\s*5\\s*v)?|5\\s*v\\s*sensori', '5 V sensor supply'],
  ['alimentazione', 'supply'],
  ['ingresso\\s*analogico', 'analog input'],
  ['ingresso\\s*(?:digitale|logico)', 'switch input'],
  ['ingresso\\s*(?:di\\s*|in\\s*)?frequenza', 'frequency input'],
  ['ingresso', 'input'],
  ['uscita\\s*(?:di\\s*)?(?:potenza|ausiliaria|digitale)', 'low side output'],
  ['uscita', 'output'],
  ['termocoppia', 'thermocouple'],
  ['temp(?:eratura)?\\s*(?:gas\\s*(?:di\\s*)?)?scarico', 'egt'],
  ['induttivo', 'VR'],
  ['(?:elettro)?valvola\\s*(?:wastegate|turbo|sovralimentazione)', 'boost solenoid'],
  ['(?:elettro)?valvola', 'valve'],
  ['temperatura', 'temperature'],
  ['pressione', 'pressure'],
  ['pompa', 'pump'],
  ['batteria', 'battery'],
  ['tramite|dal', 'via'],
  ['rel[eèé]', 'relay'],
  ['sensore', 'sensor'],
  ['connettore', 'connector'],
];

/** High and low of a bus, which stand alone only beside its name. */
const bus: readonly Entry[] = [
  ['(?<=\\bcan\\b[\\s\\d_-]{0,5})(?:alto|alta|haut|hoch)', 'H'],
  ['(?<=\\bcan\\b[\\s\\d_-]{0,5})(?:bajo|baja|basso|bassa|bas|tief|niedrig)', 'L'],
];

/** Small words that say nothing of a pin, once the terms around them are English. */
const fillers = "d['’]|de|du|des|della|dello|del|di|la|le|les|il|el|los|las|für|fuer|von|der|die|das|pour|para|per";

// Letters and the marks upon them, of the alphabets up to U+1FFF and from U+2C00 on, as ranges: two hundred patterns with
// \p{L} and a case to look away from take the engine 0.7 s to make ready, which every worker would wait for.
const letters = 'A-Za-z\\u00aa\\u00b5\\u00ba\\u00c0-\\u00d6\\u00d8-\\u00f6\\u00f8-\\u1fff\\u2c00-\\ud7ff';
const whole = (pattern: string, flags: string): RegExp =>
  new RegExp(`(?<![${letters}])(?:${pattern})(?![${letters}])`, flags);

// A phrase is understood before its words: longer patterns first, whatever the language.
const entries = [...german, ...french, ...spanish, ...italian, ...bus]
  .sort(([one], [other]) => other.length - one.length)
  .map(([pattern, english]) => ({
    /** For text in small letters: twice as quick to make ready as one that looks away from the case. */
    sign: whole(pattern, ''),
    pattern: whole(pattern, 'gi'),
    english,
  }));
const filler = whole(fillers, 'gi');

/** Text with the words of other languages in English. English text comes back as it is. */
export function inEnglish(text: string): string {
  let next = text.normalize('NFC');
  let small = next.toLowerCase();
  let changed = false;
  for (const { sign, pattern, english } of entries) {
    if (!sign.test(small)) continue;
    const after = next.replace(pattern, () => ` ${english} `);
    changed ||= after.trim().toLowerCase() !== next.trim().toLowerCase();
    next = after;
    small = next.toLowerCase();
  }
  return changed ? next.replace(filler, ' ').replace(/\s+/g, ' ').trim() : text;
}

/** Words for a cavity that nothing is in, beside the English ones. */
export const emptyWordsElsewhere =
  'frei|nicht (?:belegt|verbunden|angeschlossen|benutzt)|unbelegt|nb|n\\.b\\.|leer|reserviert|libre|non (?:utilis[ée]e?|connect[ée]e?|affect[ée]e?|usato|collegato|connesso)|vide|r[ée]serv[ée]e?|no (?:usado|conectado|utilizado)|vac[ií]o|reservado|libero|vuoto|riservato';
