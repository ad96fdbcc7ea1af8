import { call } from "../call";

/** In neither sum: its deals stand beside them. */
export const shaky = call({
	key: "shaky",
	label: "Shaky",
	means: "may close, with work",
	comesTrue: "it is won after all",
	trueIfWon: () => true,
	beside: true,
});
