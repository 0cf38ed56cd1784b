import { KERNELS } from "./kernels.wasm.ts";

/** The functions of core/assembly, where they are described: pointers are byte offsets into the memory. */
export interface Kernels {
  readonly base: () => number;
  readonly attendNetwork: (
    at: number,
    readings: number,
    parameters: number,
    elements: number,
    settings: number,
  ) => void;
  readonly variance: (
    r: number,
    changes: number,
    e: number,
    f: number,
    s1: number,
    s2: number,
    l1: number,
    l2: number,
    skipped: number,
    out: number,
  ) => number;
  readonly sensitivities: (
    rows: number,
    changes: number,
    e: number,
    f: number,
    source: number,
    adjoint: number,
    skipped: number,
    out: number,
  ) => void;
  readonly covariance: (
    rows: number,
    changes: number,
    e: number,
    f: number,
    source: number,
    adjoint: number,
    skipped: number,
    j: number,
    out: number,
  ) => void;
  readonly gram: (j: number, n: number, p: number, out: number) => void;
  readonly factor: (c: number, n: number) => void;
  readonly invert: (a: number, n: number, tolerance: number, swapped: number, scale: number) => number;
  readonly roomOf: (n: number, m: number, covariances: number, spoiled: number) => number;
  readonly density: (
    at: number,
    n: number,
    m: number,
    covariances: number,
    spreads: number,
    spoiled: number,
    most: number,
    floor: number,
  ) => number;
  readonly spreadSize: (which: number) => number;
  readonly slipShares: (m: number, out: number) => void;
  readonly logShareOfSpoiled: () => number;
  readonly likeliest: (s: number) => number;
  readonly normalTail: (t: number) => number;
}

interface Memory {
  readonly buffer: ArrayBuffer;
  readonly grow: (pages: number) => number;
}

/** What every JavaScript engine has, but no library of types without a page or a machine declares. */
interface Engine {
  readonly Module: new (bytes: Uint8Array) => object;
  readonly Instance: new (
    module: object,
    imports: object,
  ) => { readonly exports: Kernels & { readonly memory: Memory } };
}

export const BYTES = 8;
const PAGE = 65536;

/**
 * One memory for all kernels of a thread. What is put there is taken out again before anybody else is asked, but for one
 * block that stays until another is wanted.
 */
class Workspace {
  readonly kernels: Kernels;
  /** First double that is free. */
  start: number;
  private readonly base: number;
  private kept: Float64Array | null = null;
  private readonly memory: Memory;
  private view: Float64Array;

  constructor() {
    const { WebAssembly } = globalThis as unknown as { readonly WebAssembly: Engine };
    const bytes = Uint8Array.from({ length: KERNELS.length / 2 }, (_, i) =>
      Number.parseInt(KERNELS.slice(2 * i, 2 * i + 2), 16),
    );
    const { exports } = new WebAssembly.Instance(new WebAssembly.Module(bytes), {});
    this.kernels = exports;
    this.memory = exports.memory;
    this.view = new Float64Array(this.memory.buffer);
    this.base = exports.base() / BYTES;
    this.start = this.base;
  }

  /** Has a block in front of everything else. @returns where, or −1 where it is there already */
  keep(block: Float64Array): number {
    if (this.kept === block) return -1;
    this.kept = block;
    this.start = this.base;
    this.withRoom(block.length).set(block, this.base);
    this.start += block.length;
    return this.base;
  }

  /** The memory, with room for so many doubles from the start; valid until the next call. */
  withRoom(doubles: number): Float64Array {
    const short = this.start + doubles - this.view.length;
    if (short > 0) {
      this.memory.grow(Math.ceil((short * BYTES) / PAGE));
      this.view = new Float64Array(this.memory.buffer);
    }
    return this.view;
  }
}

let made: Workspace | null = null;

/** Compiled when first used. */
export function workspace(): Workspace {
  made ??= new Workspace();
  return made;
}
