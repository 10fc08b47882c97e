// The state that the page has after it took what moved. Plain functions; the server's description says what each part means.
import type { Changed, PlanHead, Readings, Stages, State } from "@/api/types";

const merged = <T>(old: Record<string, T>, moved: Record<string, T | null>): Record<string, T> => {
  const all = { ...old, ...moved };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== null)) as Record<string, T>;
};

/** Findings as they stand now: those that were there by their number, those that came as -1, -2 ... */
export const arranged = <T>(old: T[], came: T[], order: number[]): T[] => order.map((i) => (i >= 0 ? old[i]! : came[-1 - i]!));

export interface Parts {
  build: State["build"];
  read: Readings;
  plan: PlanHead;
  stages: Partial<Stages>;
}

/** Everything a page holds of a build, brought from one revision to the next. */
export function withChange(now: Parts, changed: Changed): Parts {
  const stages = Object.fromEntries(Object.entries(now.stages).filter(([name]) => !changed.stale.includes(name)));
  return {
    build: merged(now.build as never, changed.sections as never) as unknown as State["build"],
    read: merged(now.read, changed.read as Record<string, Readings[string] | null>),
    plan: {
      name: String(changed.sections.name ?? now.plan.name),
      verdict: changed.verdict,
      fitness: changed.fitness,
      figures: { ...now.plan.figures, ...changed.figures },
      findings: arranged(now.plan.findings, changed.findings, changed.order),
      pencil: changed.pencil,
      next: changed.next,
      stations: changed.stations,
      scales: changed.scales ?? now.plan.scales,
    },
    stages: { ...stages, ...(changed.stages as Partial<Stages>) },
  };
}
