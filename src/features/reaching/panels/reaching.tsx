import { panel } from "@/platform/panel";
import { readWishes } from "../server/wishes";
import { WishesPanel } from "../ui/WishesPanel";

export const reachingPanel = panel({
	key: "reaching",
	words: "What reaches me",
	right: "ownSignIn",
	show: async (context) => <WishesPanel view={await readWishes(context)} />,
});
