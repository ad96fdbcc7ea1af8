import { choice } from "./filter";

const WORDS = { they: "they are waiting for us", we: "we are waiting for them" } as const;

export const waiting = choice("waiting", "waiting", (row) => [row.waiting ? WORDS[row.waiting] : "no one is waiting"]);
