import { type History, nextStepOf } from "@/core/history/columns";
import type { OrganisationState } from "@/data/organisation/state";

/** All that is kept in memory, but for functions and for objects that are told apart by them. */
export const plain = (value: unknown) =>
	JSON.parse(JSON.stringify(value, (_, one) => (ArrayBuffer.isView(one) ? [...(one as Int32Array)] : one instanceof Map ? [...one] : one)));

/** The same with the next steps spelt out: which text has which number depends on how the columns were made. */
export const spelt = (organisation: OrganisationState) =>
	plain({ ...organisation, company: { ...organisation.company, history: words(organisation.company.history) } });

const words = (history: History) => ({ ...history, texts: [], nextStep: [...history.id.keys()].map((row) => nextStepOf(history, row)) });
