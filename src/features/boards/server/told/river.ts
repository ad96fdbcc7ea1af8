import { teller } from "./teller";

/** The river moves: it is told of by where it is. */
export const riverTold = teller({
	key: "river",
	tell: () => ({ title: "River", says: ["The river is drawn where it can be moved through: open it."], path: "/changes?show=river" }),
});
