/**
 * Letters beyond ASCII of European languages, with a rough estimate of how often each stands among them. Only their relations matter,
 * and those only by their order of magnitude: a letter that a language has not weighs against it far more.
 */
export interface Language {
  readonly name: string;
  /** Share of such letters in words that hold one: nearly all where the script is another. */
  readonly share: number;
  readonly letters: ReadonlyMap<string, number>;
}

const LATIN = 0.22;
const OTHER_SCRIPT = 0.98;

function language(name: string, share: number, text: string): Language {
  const pairs = text.split(" ").map((one): [string, number] => [one[0], Number(one.slice(1))]);
  const sum = pairs.reduce((total, [, count]) => total + count, 0);
  return { name, share, letters: new Map(pairs.map(([letter, count]) => [letter, count / sum])) };
}

export const LANGUAGES: readonly Language[] = [
  language("German", LATIN, "ä55 ö30 ü65 ß37 é1"),
  language("French", LATIN, "é190 è35 à49 ê22 ç9 ù6 û6 î5 ô6 â5 ë1 ï1 œ2 ü0.3 ÿ0.1"),
  language("Italian", LATIN, "è26 à64 ò8 ù17 é5 ì6 î0.1"),
  language("Spanish", LATIN, "ó83 í73 á50 é43 ñ31 ú17 ü1"),
  language("Portuguese", LATIN, "ã73 ç53 á47 é34 í13 ó30 õ10 ê20 ú10 â6 ô6 à7 ü0.2"),
  language("Catalan", LATIN, "à60 é30 è35 í30 ó40 ò25 ú12 ç8 ï5 ü2"),
  language("Dutch", LATIN, "é50 ë60 ï20 ö10 ü5 è10 ê5"),
  language("Swedish", LATIN, "ä180 å134 ö130 é5"),
  language("Danish", LATIN, "æ87 ø94 å119 é4 ö1 ä1"),
  language("Finnish", LATIN, "ä577 ö44 å3 š0.3 ž0.1"),
  language("Icelandic", LATIN, "ð44 í16 á18 þ15 ú6 ö8 ó10 é7 æ9 ý2"),
  language("Irish", LATIN, "á40 é30 í40 ó30 ú20"),
  language("Albanian", LATIN, "ë70 ç4"),
  language("Polish", LATIN, "ł21 ą10 ę11 ó11 ś8 ż8 ć4 ń3 ź1"),
  language("Czech", 0.27, "í33 á22 é13 ě16 ř12 ž10 š8 č10 ý11 ů7 ú3 ť1 ň1 ó1 ď1"),
  language("Slovak", 0.27, "á18 í11 é9 č10 š8 ž9 ý11 ú8 ľ4 ť5 ň2 ô3 ď2 ä1 ó1 ĺ0.3 ŕ0.2"),
  language("Hungarian", 0.27, "á34 é37 ö11 ó11 í7 ő9 ü6 ú4 ű2"),
  language("Croatian", LATIN, "č11 š10 ž7 ć6 đ3"),
  language("Romanian", LATIN, "ă24 â8 î11 ș7 ț6 ş7 ţ6"),
  language("Estonian", LATIN, "ä13 õ10 ü8 ö3 š0.3 ž0.3"),
  language("Latvian", 0.3, "ā38 ī19 ē17 ū9 š9 ņ6 ļ5 ž4 ģ2 č2 ķ3"),
  language("Lithuanian", 0.27, "ė18 ž9 š12 ų14 ū6 į7 č4 ą8 ę3"),
  language("Turkish", 0.27, "ı51 ğ11 ş18 ü19 ç12 ö8 â1 î0.5"),
  language("Maltese", LATIN, "ħ30 ż15 ġ14 ċ10 à8 è2 ò2 ù2"),
  language(
    "Russian",
    OTHER_SCRIPT,
    "о109 е85 а80 и74 н67 т63 с55 р47 в45 л44 к35 м32 д30 п28 у26 я20 ы19 ь17 г17 з16 б16 ч14 й12 х10 ж9 ш7 ю6 ц5 щ4 э3 ф3 ъ0.4 ё1",
  ),
  language(
    "Ukrainian",
    OTHER_SCRIPT,
    "о94 а83 и61 н65 і57 в53 т53 е50 р46 с44 к41 у35 л36 д35 м31 п29 з23 я23 ь18 б17 г15 ч14 й12 х12 ц9 ж8 ї7 ю8 ш7 є5 щ4 ф4 ґ0.5",
  ),
  language(
    "Belarusian",
    OTHER_SCRIPT,
    "а145 н60 і58 е45 р42 о41 л38 т37 с46 к38 в33 ы38 у38 д36 п27 м28 я35 з25 ц30 ў18 б19 г17 ь16 ч14 ж8 х10 й11 ш7 э12 ю7 ё6 ф2",
  ),
  language(
    "Bulgarian",
    OTHER_SCRIPT,
    "а117 о88 е88 и90 н65 т77 с52 р49 в44 л34 д34 к33 п29 м24 ъ18 з22 я16 у14 г17 б14 ч14 ц7 ж7 щ6 х6 й5 ш4 ф2 ю1 ь0.3",
  ),
  language(
    "Serbian",
    OTHER_SCRIPT,
    "а118 о94 и91 е88 н54 р52 т47 с47 ј43 у43 в38 д38 к37 п29 л30 м36 з17 г15 б15 ш10 ч9 ц8 ж6 ћ6 љ5 њ7 х6 ф2 ђ2 џ0.5",
  ),
  language(
    "Macedonian",
    OTHER_SCRIPT,
    "а128 о102 е97 и87 т69 н66 р52 в48 с47 д38 к33 п31 л30 у24 м24 з19 ј18 г16 б14 ч11 ш9 ж7 ц10 ф3 х2 њ3 ќ5 љ1 ѓ2 џ0.5 ѕ0.5",
  ),
  language(
    "Greek",
    OTHER_SCRIPT,
    "α112 ο98 ι91 ε80 τ79 σ49 ν64 η40 υ42 ρ42 π40 κ39 μ32 λ29 ς39 ω16 γ17 δ17 θ13 χ11 φ8 β6 ξ6 ζ4 ψ2 ά18 έ15 ή13 ί24 ό24 ύ10 ώ10 ϊ1 ϋ0.3 ΐ0.3",
  ),
];

/** One-byte encodings of Europe by the name they are shown under, the likelier ones first, with what speaks against each before a byte is read. */
export const ENCODINGS: readonly { readonly name: string; readonly against: number }[] = [
  { name: "windows-1252", against: 0 },
  { name: "windows-1250", against: 1 },
  { name: "windows-1251", against: 1 },
  { name: "windows-1253", against: 1 },
  { name: "windows-1254", against: 1.5 },
  { name: "windows-1257", against: 1.5 },
  { name: "ISO-8859-15", against: 2 },
  { name: "ISO-8859-2", against: 2 },
  { name: "ISO-8859-5", against: 3 },
  { name: "ISO-8859-7", against: 2 },
  { name: "ISO-8859-9", against: 2.5 },
  { name: "ISO-8859-13", against: 3 },
  { name: "ISO-8859-4", against: 3.5 },
  { name: "ISO-8859-10", against: 4 },
  { name: "ISO-8859-16", against: 3.5 },
  { name: "ISO-8859-3", against: 4 },
  { name: "KOI8-R", against: 2 },
  { name: "KOI8-U", against: 2.5 },
  { name: "CP850", against: 4 },
  { name: "CP437", against: 4.5 },
  { name: "CP852", against: 4 },
  { name: "CP866", against: 3 },
  { name: "CP855", against: 5 },
  { name: "CP737", against: 4 },
  { name: "CP775", against: 5 },
  { name: "CP857", against: 5 },
  { name: "CP865", against: 5 },
  { name: "CP861", against: 5.5 },
  { name: "macRoman", against: 4 },
  { name: "macCentEuro", against: 5 },
  { name: "macCyrillic", against: 4.5 },
  { name: "macUkraine", against: 5 },
  { name: "macGreek", against: 5 },
  { name: "macTurkish", against: 5.5 },
  { name: "macIceland", against: 5.5 },
  { name: "macCroatian", against: 5.5 },
  { name: "macRomania", against: 5.5 },
];
