import { saysOf, waysOf, type ProcedureStep } from './procedure';

/** A procedure as a picture: where each step stands, and the lines that lead from one to another. */
export interface Plan {
  width: number;
  height: number;
  nodes: PlanNode[];
  lines: PlanLine[];
}
export interface PlanNode {
  code: string;
  kind: ProcedureStep['kind'];
  name: string[];
  says: string;
  x: number;
  y: number;
  width: number;
  height: number;
}
export interface PlanLine {
  from: string;
  to: string;
  /** The decision and the criterion that lead there. */
  label: string;
  /** Which way of which decision it is. */
  decision: string;
  index: number;
  /** Whether it leads back to a step before. */
  back: boolean;
  path: string;
  /** Where its label stands. */
  at: [number, number];
}

const WIDTH = 112;
const HEIGHT = 56;
const GAP = 14;
const ROW = 66;
const EDGE = 10;
const LETTERS = 17;

/**
 * Lays the steps of a procedure out in rows, from the first down: a step stands below all that lead to it, but for those that
 * lead back (K. Sugiyama and others, Methods for visual understanding of hierarchical system structures, 1981: layers, places
 * for lines that pass rows, and the middle of what a node is joined to).
 */
export function planOf(steps: ProcedureStep[]): Plan {
  const known = new Map(steps.map((step) => [step.code, step]));
  const ways = steps.flatMap((step) =>
    waysOf(step)
      .filter(({ way }) => known.has(way.to))
      .map(({ decision, way }) => ({ from: step.code, to: way.to, decision, way })),
  );
  const back = backward(steps, ways);
  const rank = ranks(steps, ways, back);
  const order = rowsOf(steps, ways, back, rank);
  return drawn(steps, ways, back, rank, order);
}

type Line = { from: string; to: string; decision: { code: string; label: string } | null; way: { criterion?: string } };

/** The lines that close a circle, when the steps are gone through in their order. */
function backward(steps: ProcedureStep[], ways: Line[]): Set<Line> {
  const back = new Set<Line>();
  const done = new Set<string>();
  const open = new Set<string>();
  const visit = (code: string) => {
    if (done.has(code)) return;
    open.add(code);
    for (const line of ways.filter((way) => way.from === code)) {
      if (open.has(line.to)) back.add(line);
      else visit(line.to);
    }
    open.delete(code);
    done.add(code);
  };
  for (const step of steps) visit(step.code);
  return back;
}

/** How many lines are between the first step and each, by the longest way. */
function ranks(steps: ProcedureStep[], ways: Line[], back: Set<Line>): Map<string, number> {
  const rank = new Map(steps.map((step) => [step.code, 0]));
  for (let pass = 0; pass < steps.length; pass++)
    for (const line of ways) if (!back.has(line)) rank.set(line.to, Math.max(rank.get(line.to)!, rank.get(line.from)! + 1));
  // All ends stand at the foot.
  const last = Math.max(0, ...rank.values());
  for (const step of steps) if (step.kind === 'end') rank.set(step.code, last);
  return rank;
}

/** What stands in each row, from left to right: steps, and the places where lines pass. */
function rowsOf(steps: ProcedureStep[], ways: Line[], back: Set<Line>, rank: Map<string, number>): string[][] {
  const rows: string[][] = Array.from({ length: Math.max(0, ...rank.values()) + 1 }, () => []);
  for (const step of steps) rows[rank.get(step.code)!]!.push(step.code);
  const links: [string, string][] = [];
  ways.forEach((line, i) => {
    if (back.has(line)) return;
    let before = line.from;
    for (let at = rank.get(line.from)! + 1; at < rank.get(line.to)!; at++) {
      const pass = `${i}>${at}`;
      rows[at]!.push(pass);
      links.push([before, pass]);
      before = pass;
    }
    links.push([before, line.to]);
  });
  for (let pass = 0; pass < 8; pass++) {
    const down = pass % 2 === 0;
    for (const row of down ? rows : rows.toReversed()) {
      const place = new Map(rows.flatMap((other) => other.map((name, i): [string, number] => [name, i / Math.max(1, other.length)])));
      const middle = (name: string) => {
        const near = links.filter((link) => link[down ? 1 : 0] === name).map((link) => place.get(link[down ? 0 : 1])!);
        return near.length > 0 ? near.reduce((sum, n) => sum + n, 0) / near.length : place.get(name)!;
      };
      const middles = new Map(row.map((name) => [name, middle(name)]));
      row.sort((a, b) => middles.get(a)! - middles.get(b)!);
    }
  }
  return rows;
}

function drawn(steps: ProcedureStep[], ways: Line[], back: Set<Line>, rank: Map<string, number>, rows: string[][]): Plan {
  const known = new Map(steps.map((step) => [step.code, step]));
  const wide = (name: string) => (known.has(name) ? WIDTH : 10);
  const lengths = rows.map((row) => row.reduce((sum, name) => sum + wide(name) + GAP, -GAP));
  const inner = Math.max(WIDTH, ...lengths);
  const centre = new Map<string, number>();
  rows.forEach((row, i) => {
    let x = EDGE + (inner - lengths[i]!) / 2;
    for (const name of row) {
      centre.set(name, x + wide(name) / 2);
      x += wide(name) + GAP;
    }
  });
  const top = (row: number) => EDGE + row * (HEIGHT + ROW);
  const nodes = steps.map((step): PlanNode => ({
    code: step.code,
    kind: step.kind,
    name: broken(step.name),
    says: step.kind === 'end' ? '' : shortened(saysOf(step), LETTERS - 2),
    x: centre.get(step.code)! - WIDTH / 2,
    y: top(rank.get(step.code)!),
    width: WIDTH,
    height: HEIGHT,
  }));
  let backs = 0;
  const lines = ways.map((line, i): PlanLine => {
    const siblings = ways.filter((other) => other.from === line.from);
    const index = ways.filter((other) => other.from === line.from && other.decision?.code === line.decision?.code).indexOf(line);
    const spread = (siblings.indexOf(line) + 1) / (siblings.length + 1) - 0.5;
    const startX = centre.get(line.from)! + spread * WIDTH * 0.7;
    const startY = top(rank.get(line.from)!) + HEIGHT;
    const label = shortened([line.decision?.label ?? '', line.way.criterion ? 'if…' : ''].filter(Boolean).join(', '), LETTERS);
    const of = { from: line.from, to: line.to, label, decision: line.decision?.code ?? '', index };
    if (back.has(line)) {
      // Back lines run up at the right of everything, each in a lane of its own.
      const lane = EDGE + inner + 18 + 14 * backs++;
      const from = centre.get(line.from)! + WIDTH / 2;
      const to = centre.get(line.to)! + WIDTH / 2;
      const y1 = top(rank.get(line.from)!) + HEIGHT * 0.7;
      const y2 = top(rank.get(line.to)!) + HEIGHT * 0.3;
      return { ...of, back: true, path: `M${from} ${y1} H${lane - 6} q6 0 6 -6 V${y2 + 6} q0 -6 -6 -6 H${to}`, at: [from + 6, y1 - 5] };
    }
    const points: [number, number][] = [[startX, startY]];
    for (let at = rank.get(line.from)! + 1; at < rank.get(line.to)!; at++) {
      const x = centre.get(`${i}>${at}`)!;
      points.push([x, top(at)], [x, top(at) + HEIGHT]);
    }
    const into = ways.filter((other) => other.to === line.to && !back.has(other));
    const end = (into.indexOf(line) + 1) / (into.length + 1) - 0.5;
    points.push([centre.get(line.to)! + end * WIDTH * 0.5, top(rank.get(line.to)!)]);
    return { ...of, back: false, path: curve(points), at: [startX, startY + 15 + (siblings.indexOf(line) % 3) * 13] };
  });
  return {
    width: EDGE * 2 + inner + (backs > 0 ? 18 + 14 * backs : 0),
    height: top(rows.length - 1) + HEIGHT + EDGE,
    nodes,
    lines,
  };
}

/** A line through points that leaves and enters each row straight down. */
function curve(points: [number, number][]): string {
  const round = (n: number) => Math.round(n * 10) / 10;
  let path = `M${round(points[0]![0])} ${round(points[0]![1])}`;
  for (let i = 1; i < points.length; i++) {
    const [x1, y1] = points[i - 1]!;
    const [x2, y2] = points[i]!;
    const half = (y1 + y2) / 2;
    path += x1 === x2 ? ` V${round(y2)}` : ` C${round(x1)} ${round(half)} ${round(x2)} ${round(half)} ${round(x2)} ${round(y2)}`;
  }
  return path;
}

/** A name in two lines at most. */
function broken(name: string): string[] {
  if (name.length <= LETTERS) return [name];
  const at = name.lastIndexOf(' ', LETTERS);
  if (at <= 0) return [shortened(name, LETTERS)];
  return [name.slice(0, at), shortened(name.slice(at + 1), LETTERS)];
}

function shortened(text: string, most: number): string {
  return text.length <= most ? text : `${text.slice(0, most - 1).trimEnd()}…`;
}
