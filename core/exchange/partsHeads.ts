import { plainly } from "./textTable";

/** What a column of a parts list can hold. */
export const PART_ROLES = ["name", "quantity", "mass", "x", "y", "z", "group", "source", "price", "ignore"] as const;
export type PartRole = (typeof PART_ROLES)[number];

const words = (text: string): string[] => text.split(" ");

/**
 * Words by which a head tells what its column holds, as many points as it tells it surely; of those who tie the earlier
 * role wins. European languages, Chinese and Japanese; common practice. A word of five letters or more counts inside a
 * longer one too (Gesamtgewicht), as those do that are written without spaces.
 */
const HEADS: [PartRole, number, string[]][] = [
  ["quantity", 3, words("qty quantity pcs pieces count stk stuck anzahl qte quantite pieces cantidad uds unidades")],
  ["quantity", 3, words("quantita qta pezzi quantidade qtd qtde aantal stuks antal antall ilosc szt liczba pocet")],
  ["quantity", 3, words("kusu kusy ks maara kpl darab db количество кол-во кол кількість штук шт 数量 個数 件数")],
  [
    "price",
    3,
    words("price cost preis prix precio prezzo preco prijs pris cena hinta цена ціна € £ $ eur gbp usd 価格 价格"),
  ],
  ["source", 3, words("source quelle origin supplier bought shop herkunft fournisseur fuente fonte bron kalla zrodlo")],
  ["source", 1, words("note notes remark remarks bemerkung comment uwagi opmerking anmerkning")],
  [
    "mass",
    3,
    words("mass weight weigh masse gewicht poids wt peso massa masa vikt vaegt vekt waga hmotnost vaha paino"),
  ],
  ["mass", 3, words("tomeg suly масса вес маса вага 質量 重量 质量 重さ")],
  ["mass", 1, words("g gram grams kg oz lb lbs")],
  ["x", 3, words("x aft behind station sta arm lever hebelarm hebel bras braccio brazo braco")],
  ["x", 1, words("position pos place lage posizione posicion posicao polozenie poloha sijainti placement plats")],
  ["y", 3, words("y starboard stbd lateral seitlich right left port rechts links droite gauche steuerbord backbord")],
  ["y", 3, words("tribord babord derecha izquierda destra sinistra direita esquerda stuurboord bakboord styrbord")],
  [
    "z",
    2,
    words("z height hohe hoehe above over uber hauteur waterline up altezza altura hoogte hojd hoyde wysokosc vyska"),
  ],
  ["group", 3, words("group gruppe groupe system assembly baugruppe section gruppo grupo groep grupp grupa skupina")],
  ["name", 2, words("part parts item thing name component teil bezeichnung designation piece what pieza componente")],
  ["name", 2, words("elemento pezzo nome descrizione description peca onderdeel naam del navn namn detalj komponent")],
  [
    "name",
    2,
    words("nazwa czesc element dil nazev soucast osa nimi деталь название наименование назва 部品 名称 零件"),
  ],
  ["name", 1, words("nombre")],
];
/** What tells a quantity where it is all that a head says: beside other words it is a number of something else. */
const ALONE = words("nombre number numero no nr n st #");
/** Several words that mean one thing together, and short ones that count inside longer ones too (unitmass). */
const PHRASES: [PartRole, number, string[]][] = [
  ["quantity", 2, ["how many"]],
  ["mass", 3, ["mass"]],
  ["price", 3, ["cost", "prix"]],
  ["z", 2, ["hohe"]],
  ["source", 3, ["where from"]],
  ["x", 3, ["from nose", "from bow", "ab bug", "ab nase", "fuselage station"]],
  ["y", 3, ["butt line"]],
  ["z", 2, ["water line"]],
];
const INSIDE = 5;
/** Its words; a letter beside signs that are written without spaces stands by itself (位置X). */
const tokensOf = (text: string): string[] =>
  text.split(/[^\p{L}\p{Sc}\d-]+|(?<=[\u3040-\u9fff])(?=[a-z])|(?<=[a-z])(?=[\u3040-\u9fff])/u).filter(Boolean);
const isScript = (word: string): boolean => /[\u3040-\u30ff\u4e00-\u9fff]/.test(word);

/** How surely a head tells each of the roles that it may tell. */
export function rolesNamed(head: string): Map<PartRole, number> {
  const text = plainly(head);
  const tokens = tokensOf(text);
  const scores = new Map<PartRole, number>();
  const count = (role: PartRole, points: number) => scores.set(role, Math.max(scores.get(role) ?? 0, points));
  for (const [role, points, list] of HEADS)
    for (const w of list)
      if (tokens.includes(w) || ((w.length >= INSIDE || isScript(w) || /\p{Sc}/u.test(w)) && text.includes(w))) {
        count(role, points);
        break;
      }
  if (ALONE.includes(text.trim().replace(/\.$/, ""))) count("quantity", 1.5);
  for (const [role, points, list] of PHRASES) if (list.some((p) => text.includes(p))) count(role, points);
  return scores;
}

const PORT = words("left port links gauche backbord babord izquierda sinistra esquerda bakboord");
const STARBOARD = words(
  "starboard stbd right rechts droite steuerbord tribord derecha destra direita stuurboord styrbord",
);
/** Whether a head counts to port, where the craft counts to starboard. */
export function countsToPort(head: string): boolean {
  const tokens = tokensOf(plainly(head));
  return tokens.some((t) => PORT.includes(t)) && !tokens.some((t) => STARBOARD.includes(t));
}

/** Whether a head says that a mass is that of the whole row. */
export const isOfRow = (head: string): boolean =>
  tokensOf(plainly(head)).some((t) =>
    words("all total row sum gesamt zusammen together totale totaal totalt suma").includes(t),
  ) || plainly(head).includes("gesamt");

const TOTALS = [
  ...words(
    "total totals subtotal subtotals soustotal totale totaal totalt totalsumma summa summe suma sum somme somma",
  ),
  ...words("soma zwischensumme gesamt insgesamt razem celkem soucet yhteensa osszesen ukupno итого всего разом"),
];
const TOTALS_IN_SIGNS = ["合計", "合计", "小計", "小计"];
/** Whether the name of a row says that it sums up others: begins with a word for that. */
export function isTotal(name: string): boolean {
  const text = plainly(name)
    .replace(/^\s*(sub|sous)[- ]/, "$1")
    .replace(/^\s*grand /, "");
  return TOTALS.includes(tokensOf(text)[0] ?? "") || TOTALS_IN_SIGNS.some((w) => text.startsWith(w));
}
