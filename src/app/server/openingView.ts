import { redirect } from "next/navigation";
import { readViews, type SavedView } from "@/features/deals/server/views";
import { VIEW_PLACES, type ViewScreen } from "@/features/deals/table/viewScreens";
import type { Context } from "@/platform/context";
import { orNothing } from "@/platform/whileAway";
import type { SearchParams } from "./query";

/** The views of a screen; somebody who comes without a wish of their own is led to the one they start with. */
export async function viewsOf(context: Context, screen: ViewScreen, searchParams: SearchParams): Promise<SavedView[]> {
	const views = await orNothing(() => readViews(context, screen), []);
	const opening = views.find((view) => view.opening);
	if (opening && !Object.keys(await searchParams).length)
		redirect(`${VIEW_PLACES[screen].path}?${opening.query}${opening.query ? "&" : ""}view=${encodeURIComponent(opening.id)}`);
	return views;
}
