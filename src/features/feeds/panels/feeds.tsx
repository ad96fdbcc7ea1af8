import { panel } from "@/platform/panel";
import { readFeeds } from "../server/readFeeds";
import { FeedsPanel } from "../ui/FeedsPanel";

export const feedsPanel = panel({
	key: "feeds",
	label: "Feeds",
	group: "data",
	about: "Data that comes by itself: weekly files and bundles by mail, from a watched folder or over the API; what waits for an answer.",
	right: "importBundle",
	show: async (context) => <FeedsPanel view={await readFeeds(context)} />,
});
