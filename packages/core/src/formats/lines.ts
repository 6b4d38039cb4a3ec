/** One line of a byte stream without its line end, or what was too long to be one. */
export interface Line {
  readonly octets: Uint8Array;
  /** True when the line was longer than the limit; `octets` holds its beginning. */
  readonly overlong: boolean;
  /** Octet offset of the line in the stream. */
  readonly at: number;
}

export interface LineSplitter {
  push(chunk: Uint8Array): Line[];
  end(): Line[];
}

/** Splits a stream at LF or CR LF; keeps at most `limit` octets of a line, so that no peer can fill the memory. */
export function createLineSplitter(limit: number): LineSplitter {
  let kept: number[] = [];
  let overlong = false;
  let at = 0;
  let lineAt = 0;

  const take = (): Line => {
    if (kept[kept.length - 1] === 0x0d) kept.pop();
    const line = { octets: Uint8Array.from(kept), overlong, at: lineAt };
    kept = [];
    overlong = false;
    return line;
  };

  return {
    push(chunk) {
      const lines: Line[] = [];
      for (const octet of chunk) {
        at++;
        if (octet === 0x0a) {
          lines.push(take());
          lineAt = at;
        } else if (kept.length < limit) kept.push(octet);
        else if (octet !== 0x0d) overlong = true;
      }
      return lines;
    },
    end: () => (kept.length > 0 ? [take()] : []),
  };
}
