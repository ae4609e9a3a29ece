export declare const CHROMIUM: string;
export declare const launchOptions: { readonly executablePath: string; readonly args: string[] };
