import type { Piece } from '@/api/types';

/** The cells of a table in text (CSV, with commas, semicolons or tabs), each as pieces that keep what is marked. */
export function tableOf(pieces: Piece[]): Piece[][][] {
  const first =
    pieces
      .map(([text]) => text)
      .join('')
      .split('\n', 1)[0] ?? '';
  const sign = [',', ';', '\t'].toSorted((a, b) => first.split(b).length - first.split(a).length)[0]!;
  const rows: Piece[][][] = [[[]]];
  let quoted = false;
  const add = (char: string, marked: boolean) => {
    const cell = rows.at(-1)!.at(-1)!;
    const last = cell.at(-1);
    if (last && last[1] === marked) last[0] += char;
    else cell.push([char, marked]);
  };
  for (const [text, marked] of pieces) {
    for (let i = 0; i < text.length; i++) {
      const char = text[i]!;
      if (char === '"' && quoted && text[i + 1] === '"') add(text[i++]!, marked);
      else if (char === '"') quoted = !quoted;
      else if (char === sign && !quoted) rows.at(-1)!.push([]);
      else if (char === '\n' && !quoted) rows.push([[]]);
      else if (char !== '\r') add(char, marked);
    }
  }
  return rows.filter((row) => row.length > 1 || row[0]!.length > 0);
}
