/** One step from a version to the next. It depends on nothing that lives on: plain JSON in, plain JSON out. */
export interface Migration {
  readonly from: number;
  readonly name: string;
  readonly migrate: (file: Record<string, unknown>) => Record<string, unknown>;
}
