/** Why somebody who comes back from the company’s sign-in isn’t signed in here, in words. */
export const WHY: Readonly<Record<string, string>> = {
	off: "The company’s sign-in is turned off here.",
	down: "The company’s sign-in can’t be reached just now. Try again in a few minutes. Anyone who is signed in stays signed in.",
	late: "This took longer than ten minutes, or began in another browser. Sign in again.",
	refused: "The company’s sign-in didn’t let you in, or its answer can’t be trusted. Sign in again; if it stays so, tell ops.",
	unmapped: "None of your groups is let in here. Ask ops to add one of them in Setup, Company sign-in.",
	unknown: "Nobody here has your e-mail address. Ask ops to add you.",
	left: "You are no longer with the company here, so the sign-in is closed. Ask ops if that is wrong.",
};
