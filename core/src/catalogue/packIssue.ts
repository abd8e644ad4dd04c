/** Where something stands in a pack: keys and indices from the top. */
export type Path = (string | number)[];

/** A rule that a pack breaks, with the path to the offending value. */
export interface PackIssue {
  path: Path;
  rule: string;
  message: string;
}

/** Takes in an issue. */
export type Report = (path: Path, rule: string, message: string) => void;
