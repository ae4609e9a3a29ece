/** The part of the WebAssembly JavaScript Interface (W3C) that we use; the Node types for this version leave it out. */
declare namespace WebAssembly {
  interface MemoryDescriptor {
    readonly initial: number;
    readonly maximum?: number;
    readonly shared?: boolean;
  }
  class Memory {
    constructor(descriptor: MemoryDescriptor);
    readonly buffer: ArrayBufferLike;
    grow(pages: number): number;
  }
  class Module {
    constructor(bytes: Uint8Array<ArrayBuffer>);
  }
  class Instance {
    constructor(module: Module, imports: Record<string, Record<string, unknown>>);
    readonly exports: unknown;
  }
}
