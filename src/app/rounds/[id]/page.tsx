import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, wordsOf } from "@/app/server/query";
import { SheetSlots } from "@/features/dealSlots";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRound } from "@/features/rounds/server/readRound";
import { MinutesScreen } from "@/features/rounds/ui/MinutesScreen";
import { RoundScreen } from "@/features/rounds/ui/RoundScreen";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

interface Props {
	readonly params: Promise<{ id: string }>;
	readonly searchParams: SearchParams;
}

export const metadata = { title: "Round" };

export default async function RoundPage({ params, searchParams }: Props) {
	const id = decodeURIComponent((await params).id);
	const context = await signedIn(await addressOf(`/rounds/${encodeURIComponent(id)}`, searchParams));
	return faultScreen(context, async () => {
		const { deal, show } = await wordsOf(searchParams, ["deal", "show"]);
		const frame = await frameView(context, resolveViewpoint(context, {}));
		const round = await readRound(context, id, deal);
		const minutes = round.ended || show === "minutes";
		return (
			<Frame view={frame} title={round.kind === "walk" ? round.name : `${round.name}, ${round.period}`}>
				{minutes ? (
					<MinutesScreen view={await readMinutes(context, id)} mayHold={may(context.actor, "holdRounds")} />
				) : (
					<SheetSlots>
						<RoundScreen view={round} asked={deal ?? null} />
					</SheetSlots>
				)}
			</Frame>
		);
	});
}
