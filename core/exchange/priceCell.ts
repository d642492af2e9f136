import { moneyHere, moneySign } from "../design/money";

/** A cell with the table's decimal sign turned into a point; null for a number that could be read two ways. */
export function normal(cell: string, decimal: "." | ","): string | null {
  const other = decimal === "." ? "," : ".";
  let text = cell.replace(/−/g, "-").replace(/^(?:~|ca\.?|approx\.?|about)\s*/i, "");
  // "1,250" in a table of decimal points may be 1.25 or 1250; "0,412" can only be 0.412.
  if (new RegExp(`(?<![\\d.,])[1-9]\\d{0,2}\\${other}\\d{3}(?!\\d)`).test(text)) return null;
  text = decimal === "," ? text.replace(/,/g, ".") : text.replace(/(\d),(\d)/g, "$1.$2");
  return text;
}

/** How amounts say what they are in; a sign that several currencies share is that of the one named here. */
const CURRENCIES: [RegExp, string][] = [
  [/€|\beur\b/i, "EUR"],
  [/£|\bgbp\b/i, "GBP"],
  [/\bchf\b/i, "CHF"],
  [/\bsek\b/i, "SEK"],
  [/\bnok\b/i, "NOK"],
  [/\bdkk\b/i, "DKK"],
  [/zł|\bpln\b/i, "PLN"],
  [/kč|\bczk\b/i, "CZK"],
  [/₹|\binr\b/i, "INR"],
  [/\bcny\b/i, "CNY"],
  [/¥|\bjpy\b/i, "JPY"],
  [/\b(?:aud|cad|nzd|brl|zar|huf|ron|krw|sgd|hkd|mxn)\b/i, ""],
  [/\$|\busd\b/i, "USD"],
];
/** The workshop's own currency goes first: "12 $" is Canadian where everything is. */
export function currencyIn(text: string): string | null {
  const own = moneyHere().currency;
  if (text.toUpperCase().includes(own) || (/[^\p{L}\d\s.,]/u.test(moneySign()) && text.includes(moneySign())))
    return own;
  for (const [pattern, name] of CURRENCIES) {
    const found = pattern.exec(text);
    if (found) return name || found[0].toUpperCase();
  }
  return null;
}
/** The currency that most cells name. */
export function currencyOfCells(cells: readonly string[]): string | null {
  const found = cells.flatMap((c) => currencyIn(c) ?? []);
  const count = (name: string) => found.filter((f) => f === name).length;
  return [...new Set(found)].sort((a, b) => count(b) - count(a))[0] ?? null;
}

/** One amount, or the two of a range such as "20–30 €"; none where the cell says something else. */
export function amountsIn(cell: string, decimal: "." | ","): number[] {
  const bare = cell
    .replace(
      /\p{Sc}|\b(?:eur|gbp|usd|chf|sek|nok|dkk|pln|czk|inr|cny|jpy|aud|cad|nzd|brl|zar|huf|ron|krw|sgd|hkd|mxn)\b|zł|kč|\bkr\.?(?!\p{L})|\bfr\.?(?!\p{L})/giu,
      " ",
    )
    .trim();
  const found = bare.split(/\s*(?:[–—-]|\.\.|\bto\b|\bbis\b)\s*/i).map((part) => {
    const amount = normal(part.trim(), decimal);
    return amount !== null && /^\d+(\.\d+)?$/.test(amount) ? Number(amount) : Number.NaN;
  });
  const fits = found.length <= 2 && found.every((n, i) => n >= (found[i - 1] ?? 0));
  return fits ? found : [];
}
