// JSON pointers (RFC 6901) on the build document. Plain functions.
export const escape = (token: string) => token.replace(/~/g, "~0").replace(/\//g, "~1");
const unescape = (token: string) => token.replace(/~1/g, "/").replace(/~0/g, "~");

export function get(document: unknown, pointer: string): unknown {
  let here: unknown = document;
  for (const token of pointer.split("/").slice(1)) {
    if (here === null || typeof here !== "object") return undefined;
    here = (here as Record<string, unknown>)[unescape(token)];
  }
  return here;
}

export const parent = (pointer: string) => pointer.slice(0, pointer.lastIndexOf("/"));

export const within = (pointer: string, prefix: string) => pointer === prefix || pointer.startsWith(`${prefix}/`);

/** Whether two patches write to the same place, or one inside what the other writes. Marks are bookkeeping and never clash. */
export function clash(mine: { path: string }[], theirs: { path: string }[]): boolean {
  return mine.some((a) => theirs.some((b) => !b.path.startsWith("/marks") && (within(a.path, b.path) || within(b.path, a.path))));
}

/** The pointer of a field with * where a list number or a free key stands, as the field list knows it. */
export function generic(pointer: string, known: Record<string, unknown>): string {
  if (pointer in known) return pointer;
  const tokens = pointer.split("/");
  for (let i = tokens.length - 1; i > 1; i--) {
    const tried = [...tokens];
    tried[i] = "*";
    if (tried.join("/") in known) return tried.join("/");
  }
  for (let i = 2; i < tokens.length; i++)
    for (let j = i + 1; j < tokens.length; j++) {
      const tried = [...tokens];
      tried[i] = tried[j] = "*";
      if (tried.join("/") in known) return tried.join("/");
    }
  return pointer;
}

/** Operations that add an entry to a list with usual values, which stand in pencil. */
export const inPencil = (list: string, many: number, value: unknown) => [
  { op: "add" as const, path: `${list}/-`, value },
  { op: "add" as const, path: `/marks/${escape(`${list}/${many}`)}`, value: { kind: "assumed" } },
];
