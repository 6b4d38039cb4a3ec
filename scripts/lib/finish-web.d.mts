export function modulesCalledAtOnce(program: string): string;
