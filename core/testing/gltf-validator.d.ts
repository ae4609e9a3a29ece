declare module 'gltf-validator' {
  interface Report {
    readonly issues: {
      readonly numErrors: number;
      readonly numWarnings: number;
      readonly messages: readonly {
        readonly code: string;
        readonly message: string;
        readonly severity: number;
      }[];
    };
    readonly info: { readonly totalTriangleCount: number };
  }
  export function validateBytes(data: Uint8Array, options?: { readonly maxIssues?: number }): Promise<Report>;
}
