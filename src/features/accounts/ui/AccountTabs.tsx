"use client";
import type { SavedView } from "@/features/deals/server/views";
import type { ViewScreen } from "@/features/deals/table/viewScreens";
import { ViewsMenu } from "@/features/deals/ui/ViewsMenu";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";
import "./activities.css";

const VIEWS = [
	{ key: "list", label: "Last contact", path: "/accounts" },
	{ key: "turns", label: "Whose turn", path: "/accounts/turns" },
	{ key: "care", label: "Care", path: "/accounts/care" },
	{ key: "activity", label: "Activities", path: "/accounts/activities" },
	{ key: "territories", label: "Territories", path: "/accounts/territories" },
] as const;

interface Props {
	readonly current: (typeof VIEWS)[number]["key"];
	/** ways of looking at it that are kept */
	readonly kept?: { readonly views: readonly SavedView[]; readonly screen: ViewScreen; readonly view: string | null };
}

/** Accounts by last contact, whose turn it is, who needs care without a deal, and what was done. */
export function AccountTabs({ current, kept }: Props) {
	const address = useAddress();
	return (
		<div className="account-tabs">
			<Tabs label="Views of accounts" current={current} tabs={VIEWS.map(({ key, label, path }) => ({ key, label, href: address(path) }))} />
			{kept && (
				<span className="no-print">
					<ViewsMenu views={kept.views} current={kept.view} screen={kept.screen} />
				</span>
			)}
		</div>
	);
}
