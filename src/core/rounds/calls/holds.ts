import { call } from "../call";

export const holds = call({
	key: "holds",
	label: "Holds",
	means: "closes in this period",
	comesTrue: "the deal is won in the round’s period",
	counts: () => true,
	trueIfWon: () => true,
});
