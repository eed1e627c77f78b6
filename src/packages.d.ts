declare module 'draco3dgltf' {
  const draco3d: { createDecoderModule(): Promise<unknown>; createEncoderModule(): Promise<unknown> };
  export default draco3d;
}
declare module 'gltf-validator' {
  export interface ValidationMessage {
    code: string;
    message: string;
    severity: 0 | 1 | 2 | 3;
    pointer?: string;
  }
  export interface ValidationReport {
    issues: {
      numErrors: number;
      numWarnings: number;
      numInfos: number;
      numHints: number;
      messages: ValidationMessage[];
    };
    info: Record<string, unknown>;
    validatorVersion: string;
  }
  export function validateBytes(
    data: Uint8Array,
    options?: { externalResourceFunction?: (uri: string) => Promise<Uint8Array>; maxIssues?: number },
  ): Promise<ValidationReport>;
}
