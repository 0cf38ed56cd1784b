import { KERNELS } from "./kernels.wasm.ts";

/** The functions of core/assembly, where they are described: pointers are byte offsets into the memory. */
export interface Kernels {
  readonly base: () => number;
  readonly sensitivities: (
    n: number,
    p: number,
    changes: number,
    most: number,
    lever: number,
    current: number,
    a: number,
    b: number,
    source: number,
    adjoint: number,
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
  readonly mixtureOf: () => number;
  readonly partsAt: () => number;
  readonly partCount: () => number;
  readonly weightOfSpoiled: () => number;
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

/** One memory for all kernels of a thread: what is put there is taken out again before anybody else is asked. */
class Workspace {
  readonly kernels: Kernels;
  /** First double that is free. */
  readonly start: number;
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
    this.start = exports.base() / BYTES;
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
