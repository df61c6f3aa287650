/** A question that a page puts to the customer, as its `<ask>` says. Lengths in characters. */
export interface Question {
  name: string;
  type: string;
  label: string;
  help: string | null;
  options: string[];
  required: boolean;
  least: number | null;
  most: number | null;
}

/** What a customer answered, and why it cannot be taken: shown beside the question when the page comes back. */
export interface GivenAnswer {
  value: string;
  problem: string | null;
}
