export function modulesCalledAtOnce(program: string): string;
export function minified(program: string): Promise<string>;
