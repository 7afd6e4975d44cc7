/** Made texts of an inspection office in many languages: a heading and lines of two cells, with the encodings that were or are used for them. */
export const TEXTS: readonly {
  readonly language: string;
  readonly lines: readonly string[];
  readonly encodings: readonly string[];
}[] = [
  {
    language: "German",
    lines: ["Straße;Prüfer", "Größe des Aufzugs;Jörg Müller", "Tür schließt nicht;Käthe Weiß", "Übergabe;Günther Groß"],
    encodings: ["windows-1252", "ISO-8859-15", "CP850", "macRoman", "CP437"],
  },
  {
    language: "French",
    lines: [
      "Bâtiment;Contrôleur",
      "Porte bloquée à l'étage;Hélène Fèvre",
      "Câble usé, à vérifier;François Noël",
      "Contrôle terminé;Zoé Lefèvre",
    ],
    encodings: ["windows-1252", "ISO-8859-15", "CP850", "macRoman"],
  },
  {
    language: "Spanish",
    lines: [
      "Edificio;Señal",
      "Inspección del año;Íñigo Muñoz",
      "Ascensor número dos;José Núñez",
      "Revisión de mañana;Begoña Peña",
    ],
    encodings: ["windows-1252", "ISO-8859-15", "CP850", "macRoman"],
  },
  {
    language: "Portuguese",
    lines: [
      "Edifício;Inspeção",
      "Manutenção não feita;João Simões",
      "Elevador com avaria à espera;Conceição Magalhães",
      "Reparações;Antônio",
    ],
    encodings: ["windows-1252", "CP850", "macRoman"],
  },
  {
    language: "Italian",
    lines: [
      "Città;Attività",
      "Verifica più recente;Nicolò Abbà",
      "La porta non è chiusa;Libertà",
      "Perché così;Viabilità",
    ],
    encodings: ["windows-1252", "CP850", "macRoman"],
  },
  {
    language: "Swedish",
    lines: [
      "Våning;Åtgärd",
      "Dörren är trög;Björn Åkesson",
      "Räcke på plats två;Göran Sjöström",
      "Återbesök;Märta Öberg",
    ],
    encodings: ["windows-1252", "CP850", "macRoman", "ISO-8859-4"],
  },
  {
    language: "Danish",
    lines: [
      "Bygning;Eftersyn udført",
      "Døren går trægt;Søren Ågård",
      "Prøvekørsel på række;Jørgen Kjær",
      "Færdig;Bjørn Østergård",
    ],
    encodings: ["windows-1252", "CP850", "CP865", "macRoman"],
  },
  {
    language: "Finnish",
    lines: [
      "Käynti;Tarkastäjä",
      "Hissi pysähtyy väärään kerrokseen;Päivi Mäkelä",
      "Ovi ei sulkeudu kylmällä säällä;Jyrki Hämäläinen",
      "Työ tehty;Väinö Kärki",
    ],
    encodings: ["windows-1252", "CP850", "macRoman"],
  },
  {
    language: "Icelandic",
    lines: [
      "Skoðun;Skýrsla",
      "Lyfta númer þrjú bíður;Þórður Sigurðsson",
      "Hurðin lokast ekki nógu hægt;Ásdís Guðmundsdóttir",
      "Staðfest;Ragnheiður Ýr",
    ],
    encodings: ["windows-1252", "macIceland", "CP861"],
  },
  {
    language: "Polish",
    lines: [
      "Usługa;Przegląd",
      "Winda nie działa;Łukasz Żółć",
      "Drzwi się nie zamykają;Święty Mikołaj",
      "Łódź, część północna;Stanisław Wójcik",
    ],
    encodings: ["windows-1250", "ISO-8859-2", "CP852", "macCentEuro"],
  },
  {
    language: "Czech",
    lines: [
      "Budova;Předání",
      "Výtah číslo tři stojí;Jiří Dvořák",
      "Dveře se nezavřely úplně;Zdeněk Růžička",
      "Příští prohlídka;Kateřina Šťastná",
    ],
    encodings: ["windows-1250", "ISO-8859-2", "CP852", "macCentEuro"],
  },
  {
    language: "Slovak",
    lines: [
      "Údržba;Výťah",
      "Dvere sa nezatvárajú;Ľubomír Čierny",
      "Ďalšia prehliadka v máji;Žofia Krátka",
      "Skúška dopadla dobre;Štefan Kováč",
    ],
    encodings: ["windows-1250", "ISO-8859-2", "CP852"],
  },
  {
    language: "Hungarian",
    lines: [
      "Épület;Következő vizsgálat",
      "Az ajtó nem csukódik;Szűcs Győző",
      "Emelőkötél kopott, cserélendő;Kovács Ágnes",
      "Kész;Őri Gyöngyvér",
    ],
    encodings: ["windows-1250", "ISO-8859-2", "CP852"],
  },
  {
    language: "Croatian",
    lines: [
      "Kuća;Sljedeći pregled",
      "Vrata se ne zatvaraju čvrsto;Željko Đurić",
      "Uže je istrošeno;Šime Kovačević",
      "Gotovo;Čedomir Vuković",
    ],
    encodings: ["windows-1250", "ISO-8859-2", "CP852", "macCroatian"],
  },
  {
    language: "Romanian",
    lines: [
      "Clădire;Întreținere".replaceAll("ț", "ţ"),
      "Ascensorul nu funcţionează;Ştefan Ţepeş",
      "Uşa se închide încet;Ioană Brânză",
      "Următoarea verificare;Cătălin Mândru",
    ],
    encodings: ["windows-1250", "ISO-8859-2", "CP852"],
  },
  {
    language: "Estonian",
    lines: [
      "Käik;Järgmine ülevaatus",
      "Uks ei sulgu täielikult;Jüri Põder",
      "Köis on kulunud;Õnne Pärn",
      "Töö tehtud;Ülle Mägi",
    ],
    encodings: ["windows-1257", "ISO-8859-4", "CP775"],
  },
  {
    language: "Latvian",
    lines: [
      "Ēka;Nākamā pārbaude",
      "Durvis neaizveras līdz galam;Jānis Bērziņš",
      "Trose ir nodilusi;Kārlis Ozoliņš",
      "Pabeigts šodien;Līga Kalniņa",
    ],
    encodings: ["windows-1257", "ISO-8859-13", "ISO-8859-4", "CP775"],
  },
  {
    language: "Lithuanian",
    lines: [
      "Pastatas;Kita apžiūra",
      "Durys neužsidaro iki galo;Jonas Žukauskas",
      "Lynas nusidėvėjęs, keisti;Rūta Šimkutė",
      "Įvykdyta;Gintarė Ąžuolė",
    ],
    encodings: ["windows-1257", "ISO-8859-13", "ISO-8859-4", "CP775"],
  },
  {
    language: "Turkish",
    lines: [
      "Bina;Sıradaki bakım",
      "Kapı tam kapanmıyor;Işıl Gümüş",
      "Asansör üçüncü katta duruyor;Ayşe Çağlar",
      "İş bitti, değişti;Oğuz Şahin",
    ],
    encodings: ["windows-1254", "ISO-8859-9", "CP857", "macTurkish"],
  },
  {
    language: "Russian",
    lines: [
      "Здание;Следующий осмотр",
      "Дверь не закрывается;Юрий Щербаков",
      "Трос изношен, заменить;Наталья Ёлкина",
      "Работа выполнена;Фёдор Цветков",
    ],
    encodings: ["windows-1251", "KOI8-R", "CP866", "ISO-8859-5", "macCyrillic"],
  },
  {
    language: "Ukrainian",
    lines: [
      "Будівля;Наступний огляд",
      "Двері не зачиняються;Їжакевич Євген",
      "Трос зношений, замінити;Наталія Ґудзь",
      "Роботу виконано;Юрій Щур",
    ],
    encodings: ["windows-1251", "KOI8-U", "macUkraine"],
  },
  {
    language: "Bulgarian",
    lines: [
      "Сграда;Следващ преглед",
      "Вратата не се затваря;Щерьо Ъглов",
      "Въжето е износено;Гергана Жечева",
      "Работата е свършена;Юлия Цанкова",
    ],
    encodings: ["windows-1251", "ISO-8859-5"],
  },
  {
    language: "Serbian",
    lines: [
      "Зграда;Следећи преглед",
      "Врата се не затварају;Љубиша Ђорђевић",
      "Уже је истрошено;Њивица Џанић",
      "Посао је готов;Жељко Ћирић",
    ],
    encodings: ["windows-1251", "ISO-8859-5"],
  },
  {
    language: "Greek",
    lines: [
      "Κτίριο;Επόμενος έλεγχος",
      "Η πόρτα δεν κλείνει;Γιώργος Παπαδόπουλος",
      "Το συρματόσχοινο φθάρηκε;Ελένη Ψαρά",
      "Η εργασία τελείωσε;Άγγελος Ξενάκης",
    ],
    encodings: ["windows-1253", "ISO-8859-7", "CP737", "macGreek"],
  },
];
