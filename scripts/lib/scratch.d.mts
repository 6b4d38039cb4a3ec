export function scratchFolders(): { readonly temporary: string; readonly cluster: string; remove(): void };
