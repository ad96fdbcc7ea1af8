import { panel } from "@/platform/panel";
import { readWishes } from "../server/wishes";
import { WishesPanel } from "../ui/WishesPanel";

export const reachingPanel = panel({
	key: "reaching",
	label: "My notifications",
	group: "mine",
	about: "What you are told about, on your desk or by mail, and when your digests come.",
	right: "ownSignIn",
	show: async (context) => <WishesPanel view={await readWishes(context)} />,
});
