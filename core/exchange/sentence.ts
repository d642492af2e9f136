/** A mass as it is said: "113g", "~64 g", "2x14 g", "1/3 lb", "4 oz", or a bare number before the word of a part. */
const NUMBER = String.raw`(?:\d+(?:[.,]\d+)?(?:\s+\d+\/\d+)?|\d+\/\d+|½|¼|¾)`;
const MASS_UNIT = String.raw`(?:kg|g|grams?|oz|ounces?|lbs?|pounds?)\b`;
/** A number begins here: no sign, range or digits before it, which would make it another number. */
const BEGINS = String.raw`(?<![\d.,/\-−–])`;
const MASS = new RegExp(
  String.raw`${BEGINS}(?:(\d{1,3})\s*[x×]\s*)?((?:~|about |ca\.? |approx\.? )?${NUMBER})\s*(${MASS_UNIT})`,
  "gi",
);
/** How far aft, where it is said: "at 120 mm", "@ 4 in". */
const PLACE = new RegExp(String.raw`(?:\bat\b|@)\s*(${NUMBER}\s*(?:mm|cm|m|in|inch(?:es)?|")(?![a-z/]))`, "i");
const BARE = new RegExp(String.raw`^(${NUMBER})\s+(?=\p{L})|\s(${NUMBER})$`, "iu");
/** Words that say nothing of the part: verbs anywhere, the rest where a name begins or ends. */
const VERBS = /\b(?:weighs?|weighing|is|are|has|have|each|roughly|about)\b/gi;
const EDGES = /^(?:(?:the|an?|my|its|and|plus|with|for|of|in)\s+)+|(?:\s+(?:the|an?|and|plus|with|for|of|in))+$/gi;
/** Numbers as words, from one on. */
const COUNTED = ["one", "two", "three", "four", "five", "six", "seven", "eight"];
/** Pieces that one paste may have: more is no sentence. */
const MOST = 60;

const count = (text: string) => [...text.matchAll(MASS)].length;

/** Pieces of which each says one mass: parted at commas, and at "and" where there is a number on either side. */
function piecesOf(text: string): string[] {
  const says = (piece: string) => count(piece) === 1 || BARE.test(piece.trim());
  return text
    .split(/\r?\n|;|(?<=[\p{L})"])\s*,\s*|,\s+/iu)
    .flatMap((piece) => {
      const parts = piece.split(/\s(?:and|plus|with|und|et|&|\+)\s/i);
      return parts.every(says) ? parts : [piece];
    })
    .map((piece) => piece.trim().replace(/\.$/, ""))
    .filter((piece) => piece !== "");
}

/**
 * Rows of a parts list (name, mass, number, place aft; tab between) from a sentence such as "113g tail, 300 nose and
 * 2x14 g wheels". A number without a unit takes that of the others. null: the text is no such sentence, because a
 * piece of it says no mass or more than one, or nothing that could be a name; then nothing is made of it.
 */
export function rowsOfSentence(text: string): string | null {
  if (text.length > 4000 || /\t/.test(text)) return null;
  const pieces = piecesOf(text);
  if (pieces.length === 0 || pieces.length > MOST) return null;
  const unit = [...text.matchAll(MASS)][0]?.[3];
  if (!unit) return null;
  const rows: string[] = [];
  for (const piece of pieces) {
    const masses = [...piece.matchAll(MASS)];
    if (masses.length > 1) return null;
    const [found] = masses;
    const place = PLACE.exec(piece);
    let rest = place ? piece.replace(place[0], " ") : piece;
    let mass: string;
    let number = "1";
    if (found) {
      mass = `${found[2]?.replace(/about |ca\.? |approx\.? /i, "~")} ${found[3]}`;
      number = found[1] ?? "1";
      rest = rest.replace(found[0], " ");
    } else {
      const bare = BARE.exec(rest);
      if (!bare) return null;
      mass = `${bare[1] ?? bare[2]} ${unit}`;
      rest = rest.replace(bare[0], " ");
    }
    const name = rest.replace(VERBS, " ").replace(/[:=]+/g, " ").replace(/\s+/g, " ").trim().replace(EDGES, "");
    // "Two wheels 14 g each" are two; how many of "wheels 14 g each" nobody said.
    const each = /\beach\b/i.test(rest);
    const many = COUNTED.indexOf(name.split(" ")[0]?.toLowerCase() ?? "");
    if (each && number === "1") {
      if (many < 1) return null;
      number = String(many + 1);
    }
    // What is left must be a name: a further number would be something that was not understood.
    if (!/\p{L}{2}/u.test(name) || /^[\d−–-]/.test(name) || /\d\s*(?:mm|cm|m|in|ft|km\/h|mph)(?![a-z])/i.test(name))
      return null;
    rows.push([name, mass, number, place?.[1] ?? ""].join("\t"));
  }
  return ["part\tmass\tn\tx", ...rows].join("\n");
}
