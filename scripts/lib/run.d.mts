/** A port that is free on loopback now, and that no outgoing connection takes before it is listened at. */
export function freePort(): Promise<number>;
