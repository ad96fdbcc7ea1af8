"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { nearDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { NewsItem } from "../server/wishes";
import "./reaching.css";

const SHOWN = 12;

/** What one was told: unread first; read when it is opened. */
export function News({ items, unread, today }: { items: readonly NewsItem[]; unread: number; today: string }) {
	const run = useRun();
	const act = useAct();
	return (
		<section aria-label="News" className="news">
			<div className="desk-head">
				<h2>{unread ? `News: ${unread} unread` : "News"}</h2>
				<span>
					{unread > 0 && (
						<Button size="sm" variant="link" onClick={() => void act(run("reaching.read", {}), ({ count }) => `${count} read.`)}>
							Mark all read
						</Button>
					)}
					<Link className="small-text" href="/setup?place=reaching">
						My notifications
					</Link>
				</span>
			</div>
			{items.length ? (
				<div className="panel py-1">
					<ul className="rows">
						{items.slice(0, SHOWN).map((item) => (
							<li key={item.id} className={item.read ? "second" : ""}>
								<span>
									{!item.read && <span className="news-mark">new </span>}
									<Link href={item.path} onClick={() => !item.read && void run("reaching.read", { ids: [item.id] })}>
										{item.words}
									</Link>
								</span>
								<span className="tiny second text-nowrap">{nearDate(item.day, today)}</span>
							</li>
						))}
					</ul>
				</div>
			) : (
				<p className="panel second">No news yet. Choose in Setup which events you want to hear of.</p>
			)}
		</section>
	);
}
