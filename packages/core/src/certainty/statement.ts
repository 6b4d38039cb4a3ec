/** What a statement rests on. */
export interface Fact {
  /**
   * `packet`: it stands in the packet itself; `standard`: a rule that stations obey; `record`: something else that was heard;
   * `supposition`: usual, and told by nobody.
   */
  readonly from: 'packet' | 'standard' | 'record' | 'supposition';
  readonly words: string;
}

/** What a statement says, so that it can be compared with what happened. */
export type Claim =
  /** Transmitted it after the source had; null: somebody who did not sign. */
  | { readonly is: 'passed on'; readonly by: string | null }
  /** Whose transmission the receiver got; null: of somebody who did not sign. */
  | { readonly is: 'received from'; readonly station: string | null }
  /** Used up a generic element. */
  | { readonly is: 'answered'; readonly by: string; readonly element: string }
  | { readonly is: 'heard'; readonly by: string; readonly from: string }
  /** Transmissions after that of the source. */
  | { readonly is: 'hops'; readonly atLeast: number }
  | { readonly is: 'still open'; readonly elements: readonly string[] }
  | { readonly is: 'by internet'; readonly gate: string | null };

/** A sentence with the facts that carry it: certain only if none of them is a supposition. */
export interface Statement {
  readonly words: string;
  readonly claim: Claim;
  readonly facts: readonly Fact[];
  readonly certain: boolean;
}

/** A chain is as strong as its weakest link, and what rests on nothing is not certain. */
export const restsOnFacts = (facts: readonly Fact[]): boolean =>
  facts.length > 0 && facts.every(({ from }) => from !== 'supposition');

export const statement = (words: string, claim: Claim, facts: readonly Fact[]): Statement => ({
  words,
  claim,
  facts,
  certain: restsOnFacts(facts),
});
