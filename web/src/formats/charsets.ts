import type { FixedLength } from "../definitions";

type Charset = NonNullable<FixedLength["charset"]>;

/** The EBCDIC code pages that files may be written in, and where they are used. */
const ebcdic: [Charset, string][] = [
  ["IBM037", "the United States, Canada, the Netherlands, Portugal, Brazil"],
  ["IBM273", "Germany, Austria"],
  ["IBM277", "Denmark, Norway"],
  ["IBM278", "Finland, Sweden"],
  ["IBM280", "Italy"],
  ["IBM284", "Spain, Latin America"],
  ["IBM285", "the United Kingdom, Ireland"],
  ["IBM290", "Japan, katakana"],
  ["IBM297", "France"],
  ["IBM420", "Arabic"],
  ["IBM424", "Hebrew"],
  ["IBM500", "international"],
  ["IBM870", "central Europe"],
  ["IBM871", "Iceland"],
  ["IBM918", "Urdu"],
  ["IBM1026", "Turkey"],
  ["IBM1047", "open systems"],
  ["IBM01140", "as IBM037, with the euro"],
  ["IBM01141", "as IBM273, with the euro"],
  ["IBM01142", "as IBM277, with the euro"],
  ["IBM01143", "as IBM278, with the euro"],
  ["IBM01144", "as IBM280, with the euro"],
  ["IBM01145", "as IBM284, with the euro"],
  ["IBM01146", "as IBM285, with the euro"],
  ["IBM01147", "as IBM297, with the euro"],
  ["IBM01148", "as IBM500, with the euro"],
  ["IBM01149", "as IBM871, with the euro"],
  ["IBM-Thai", "Thai"],
  ["x-IBM833", "Korea"],
  ["x-IBM875", "Greece"],
  ["x-IBM1025", "Cyrillic"],
  ["x-IBM1097", "Persian"],
  ["x-IBM1112", "Latvia, Lithuania"],
  ["x-IBM1122", "Estonia"],
  ["x-IBM1123", "Ukraine"],
  ["x-IBM1166", "Kazakhstan"],
];

/** The EBCDIC code pages in which some characters take two bytes, so that positions count bytes. */
const mixed: [Charset, string][] = [
  ["x-IBM930", "Japan, katakana and kanji"],
  ["x-IBM933", "Korea, hangul"],
  ["x-IBM935", "China, simplified"],
  ["x-IBM937", "Taiwan, traditional"],
  ["x-IBM939", "Japan, Latin and kanji"],
  ["x-IBM1364", "Korea, hangul, the full set"],
];

/** The code pages of EBCDIC as choices. */
export const ebcdicPages = [...ebcdic, ...mixed].map(([value, where]) => ({
  value,
  label: `${value}: ${where}`,
}));

/** What positions in a fixed-length file count in a charset, where the charset leaves no choice. */
export const unitsIn = (charset: Charset): FixedLength["units"] =>
  mixed.some(([page]) => page === charset) ? "bytes" : undefined;
