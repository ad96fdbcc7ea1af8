import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, render } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import { DealSlots } from "@/features/dealSlots";
import { PeriodSlots } from "@/features/periodSlots";
import { OPERATIONS } from "@/features/registry";
import { Fault } from "@/platform/fault";
import { RIGHTS } from "@/platform/rights";
import { MayProvider } from "@/ui/frame/may";
import { Notices } from "@/ui/Notices";
import { type Outcome, RunProvider } from "@/ui/run";
import { as } from "../kit/database";

/** Shows a screen to a person: what it has done is really done, by the commands themselves against the database. */
export function show(node: ReactNode, personId: string) {
	const asked: { name: string; input: unknown }[] = [];
	let underWay = 0;
	const run = async (name: string, input: unknown): Promise<Outcome<unknown>> => {
		asked.push({ name, input });
		underWay++;
		try {
			return { ok: true, result: await OPERATIONS.get(name)?.(await as(personId), input as never) };
		} catch (error) {
			if (error instanceof Fault) return { ok: false, title: error.title, detail: error.detail, status: error.status, more: error.more };
			throw error;
		} finally {
			underWay--;
		}
	};
	/** Waits until nothing that was asked for is under way, nor anything that follows on it. */
	const idle = async () => {
		for (let quiet = 0; quiet < 3; quiet = underWay ? 0 : quiet + 1) await act(() => new Promise((resolve) => setTimeout(resolve, 15)));
	};
	const around = (inner: ReactNode) => (
		<NuqsTestingAdapter hasMemory>
			<QueryClientProvider client={new QueryClient()}>
				<RunProvider server={{ run, signOut: async () => undefined }}>
					<Notices>
						<MayProvider rights={Object.keys(RIGHTS)}>
							<DealSlots>
								<PeriodSlots>{inner}</PeriodSlots>
							</DealSlots>
						</MayProvider>
					</Notices>
				</RunProvider>
			</QueryClientProvider>
		</NuqsTestingAdapter>
	);
	const shown = render(around(node));
	return { ...shown, asked, idle, again: (next: ReactNode) => shown.rerender(around(next)) };
}

/** An amount as it stands on screen, in minor units. */
export function amountIn(text: string): number {
	const sign = /[−-]/.test(text) ? -1 : 1;
	const [whole = "", cents = ""] = text.replace(/[^\d.]/g, "").split(".");
	return whole ? sign * (Number(whole) * 100 + Number(cents.padEnd(2, "0"))) : Number.NaN;
}
