export const SPACE = 0x20;
export const isDigit = (code: number): boolean => code >= 0x30 && code <= 0x39;
