import { api, messageOf } from '@/api/client';
import type { Scan } from '@/api/types';

export interface ScannerCan {
  model: string;
  resolutions: number[];
  colour: boolean;
  feeder: boolean;
  glass: boolean;
  duplex: boolean;
}

const KEPT = 'intake:scan';

/** Scanners of one's groups, and the stack that is being scanned: its pages as they come. */
export class Scanning {
  scanners = $state.raw<{ code: string; name: string }[]>([]);
  scanner = $state('');
  can = $state.raw<ScannerCan | null>(null);
  scan = $state.raw<Scan | null>(null);
  fault = $state('');
  busy = $state(false);
  dots = $state(200);
  colour = $state(false);
  duplex = $state(true);
  fed = $state(true);
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** @param ondone is told when a stack has become a document */
  constructor(private readonly ondone: (document: string | null) => void) {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as { dots: number; colour: boolean; duplex: boolean } | null;
    if (kept) [this.dots, this.colour, this.duplex] = [kept.dots, kept.colour, kept.duplex];
  }

  close(): void {
    clearTimeout(this.#timer);
  }

  async load(): Promise<void> {
    // Who has no scanner sees none of this, also when it cannot be asked.
    const got = await api.scanners().catch(() => ({ scanners: [], scans: [] }));
    this.scanners = got.scanners;
    this.scanner ||= got.scanners[0]?.code ?? '';
    const open = got.scans.at(-1);
    if (open) this.#take(open);
  }

  /** Asks the scanner what it can do. */
  async look(): Promise<void> {
    this.can = null;
    this.fault = '';
    try {
      const can = await api.scanner(this.scanner);
      this.can = can;
      if (!can.resolutions.includes(this.dots)) this.dots = can.resolutions.find((d) => d >= 200) ?? can.resolutions.at(-1) ?? 200;
      if (!can.colour) this.colour = false;
      if (!can.duplex) this.duplex = false;
      this.fed = can.feeder;
    } catch (error) {
      this.fault = messageOf(error, 'The scanner cannot be asked.');
    }
  }

  async begin(): Promise<void> {
    const { scanner, dots, colour, duplex, fed } = this;
    localStorage.setItem(KEPT, JSON.stringify({ dots, colour, duplex }));
    await this.#do(() => api.scan({ scanner, dots, colour, duplex, fed }));
  }

  goOn(): Promise<void> {
    return this.#do(() => api.goOnScan(this.scan!.id));
  }

  keep(): Promise<void> {
    return this.#do(() => api.keepScan(this.scan!.id));
  }

  async drop(): Promise<void> {
    const { id } = this.scan!;
    this.busy = true;
    try {
      await api.dropScan(id);
      this.scan = null;
    } catch (error) {
      this.fault = messageOf(error, 'It could not be thrown away.');
    } finally {
      this.busy = false;
    }
  }

  async #do(what: () => Promise<Scan>): Promise<void> {
    this.busy = true;
    this.fault = '';
    try {
      this.#take(await what());
    } catch (error) {
      this.fault = messageOf(error, 'The scanner cannot be asked.');
    } finally {
      this.busy = false;
    }
  }

  #take(scan: Scan): void {
    clearTimeout(this.#timer);
    if (scan.state === 'done') {
      this.scan = null;
      this.ondone(scan.document);
      return;
    }
    this.scan = scan;
    if (scan.state === 'running')
      this.#timer = setTimeout(
        () =>
          api.scanState(scan.id).then(
            (got) => this.#take(got),
            (error: unknown) => (this.fault = messageOf(error, 'The scan cannot be shown.')),
          ),
        500,
      );
  }
}
