import { useAddress } from "@/ui/frame/address";
import { figureOf, type Opens } from "../table/figures";

/** The days that an address of deals is made by. */
export interface Days {
	readonly from: string;
	readonly to: string;
	readonly seen: string;
}

const dayBeside = (iso: string, by: number) => new Date(Date.parse(`${iso}T00:00:00Z`) + by * 86_400_000).toISOString().slice(0, 10);

/** Gives the addresses behind figures: the deals that make them, so that they can be added up. */
export function useOpens({ from, to, seen }: Days) {
	const address = useAddress();
	const deals = ({ status, f, due }: Opens = {}, more: Readonly<Record<string, string | null>> = {}) =>
		address("/deals", {
			...(status ? { status } : {}),
			...(f ? { f: f.replace("SEEN", seen) } : {}),
			...(due === "none" ? { due: "none" } : due === "before" ? { due: `..${dayBeside(from, -1)}` } : due === "after" ? { due: `${dayBeside(to, 1)}..` } : {}),
			...more,
		});
	return {
		address,
		deals,
		/** what a figure is made of: deals, tasks, or what is shown on a page of its own; of another period by its days in an address */
		figure: (key: string, more: Readonly<Record<string, string>> = {}) => {
			const { tasks, made, opens } = figureOf(key) ?? {};
			return tasks ? address("/tasks?show=late", more) : made ? address("/period/made", { of: made, ...more }) : deals(opens, more);
		},
		/** what was won on the working day from one day on up to before the next */
		wonOn: (day: string, next: string) => deals({ status: "won", f: `closed.after.${dayBeside(day, -1)};closed.before.${next}` }),
		deal: (id: string) => address(`/deals/${encodeURIComponent(id)}`),
		dayAfter: (day: string) => dayBeside(day, 1),
	};
}
