import { choice } from "./filter";

const WORDS = { they: "they wait for us", we: "we wait for them" } as const;

export const waiting = choice("waiting", "waiting", (row) => [row.waiting ? WORDS[row.waiting] : "nobody waits"]);
