export function bundleProgram(source: string, outfile: string): Promise<void>;
