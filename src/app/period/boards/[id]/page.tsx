import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery } from "@/app/server/query";
import { TILE_KINDS, tileKind } from "@/features/boards/panels";
import { listBoards } from "@/features/boards/server/boards";
import { boardReaders } from "@/features/boards/server/openings";
import { BoardScreen } from "@/features/boards/ui/BoardScreen";
import type { ShownTile } from "@/features/boards/ui/shown";
import { PeriodTabs } from "@/features/period/ui/PeriodTabs";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint, type Viewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Board" };

export default async function BoardPage({ params, searchParams }: { params: Promise<{ id: string }>; searchParams: SearchParams }) {
	const { id } = await params;
	const context = await signedIn(await addressOf(`/period/boards/${id}`, searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const board = (await listBoards(context)).find((one) => one.id === id);
		if (!board) throw notFound("board", id);
		const shown: Record<string, ShownTile> = {};
		for (const tile of board.tiles) shown[tile.id] = await shownTile(context, viewpoint, tile);
		const kinds = await Promise.all(
			TILE_KINDS.map(async ({ key, label, about, size, settings }) => ({ key, label, about, size, settings: await settings(context) })),
		);
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<PeriodTabs current="boards" />
				<BoardScreen board={board} shown={shown} kinds={kinds} readers={may(context.actor, "openBoardsFor") ? await boardReaders(context, id) : []} />
			</Frame>
		);
	});
}

/** What a tile shows; one that can't be shown says why, and the others stand. */
async function shownTile(context: Context, viewpoint: Viewpoint, tile: { kind: string; settings: Record<string, string> }): Promise<ShownTile> {
	const kind = tileKind(tile.kind);
	if (!kind) return { title: "A tile", opens: null, node: "This kind of tile no longer exists. Remove it." };
	try {
		return await kind.show(context, viewpoint, tile.settings);
	} catch (error) {
		if (!(error instanceof Fault)) throw error;
		return { title: kind.label, opens: null, node: error.detail };
	}
}
