import { call } from "../call";

export const gone = call({
	key: "gone",
	label: "Gone",
	means: "will not be won",
	comesTrue: "it is lost",
	asks: "loss",
	trueIfLost: true,
	trueIfNot: () => null,
});
