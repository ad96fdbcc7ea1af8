"use client";
import { useRouter, useSearchParams } from "next/navigation";
import { useRef, useState } from "react";
import { Button, Dropdown, Form, Modal } from "react-bootstrap";
import { useNotice } from "@/ui/Notices";
import { FormDialog } from "@/ui/parts/FormDialog";
import { type Outcome, useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import type { SavedView } from "../server/views";
import { VIEW_PLACES, type ViewScreen } from "../table/viewScreens";
import { viewQuery } from "./useTable";

/** Ways of looking that are kept: opened, saved, shared, put in order, and one to start with. */
export function ViewsMenu({ views, current, screen = "deals" }: { views: readonly SavedView[]; current: string | null; screen?: ViewScreen }) {
	const [managing, setManaging] = useState(false);
	const [naming, setNaming] = useState(false);
	const router = useRouter();
	const refresh = useRefresh();
	const params = useSearchParams();
	const run = useRun();
	const notice = useNotice();
	const query = viewQuery(params.toString());
	const active = views.find((view) => view.id === current) ?? views.find((view) => view.query === query);
	const changed = active !== undefined && active.query !== query;
	const keep = async () => {
		if (!active) return;
		const done = await run("deals.changeView", { id: active.id, query });
		notice({ words: done.ok ? `“${active.name}” saved.` : done.detail });
		refresh();
	};
	return (
		<>
			<Dropdown>
				<Dropdown.Toggle size="sm" variant="outline-primary" className="views-toggle">
					{active ? `${active.name}${changed ? ", changed" : ""}` : "Views"}
				</Dropdown.Toggle>
				<Dropdown.Menu>
					{views.map((view) => (
						<Dropdown.Item as="button" type="button" key={view.id} active={view.id === active?.id} onClick={() => router.push(address(view, screen))}>
							{view.name}
							<span className="third tiny">
								{" "}
								{view.own ? (view.sharedWith ? `shared with ${view.sharedWith}` : "") : `by ${view.by}`}
								{view.opening && " · opens first"}
							</span>
						</Dropdown.Item>
					))}
					{views.length > 0 && <Dropdown.Divider />}
					{changed && active?.own && (
						<Dropdown.Item as="button" type="button" onClick={() => void keep()}>
							Save changes to “{active.name}”
						</Dropdown.Item>
					)}
					<Dropdown.Item as="button" type="button" onClick={() => setNaming(true)}>
						Save view …
					</Dropdown.Item>
					{views.length > 0 && (
						<Dropdown.Item as="button" type="button" onClick={() => setManaging(true)}>
							Order, share and delete …
						</Dropdown.Item>
					)}
					<Dropdown.Item as="button" type="button" onClick={() => router.push(`${VIEW_PLACES[screen].path}?view=none`)}>
						All {VIEW_PLACES[screen].words}, default
					</Dropdown.Item>
				</Dropdown.Menu>
			</Dropdown>
			{naming && <SaveDialog query={query} screen={screen} onClose={() => setNaming(false)} />}
			{managing && <ManageDialog views={views} screen={screen} onClose={() => setManaging(false)} />}
		</>
	);
}

const address = (view: Pick<SavedView, "id" | "query">, screen: ViewScreen) =>
	`${VIEW_PLACES[screen].path}?${view.query}${view.query ? "&" : ""}view=${encodeURIComponent(view.id)}`;

function SaveDialog({ query, screen, onClose }: { query: string; screen: ViewScreen; onClose: () => void }) {
	const [name, setName] = useState("");
	const [shared, setShared] = useState(false);
	/** the menu that led here takes the focus back while it shuts */
	const input = useRef<HTMLInputElement>(null);
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const notice = useNotice();
	const router = useRouter();
	const refresh = useRefresh();
	const save = async () => {
		const done = await run("deals.saveView", { name, query, shared, screen });
		if (!done.ok) return setError(done.detail);
		notice({ words: `“${name}” saved${shared ? " and shared with your team" : ""}.` });
		onClose();
		router.push(address({ id: done.result.id, query }, screen));
		refresh();
	};
	return (
		<FormDialog title="Save view" error={error} not={!name.trim()} onSave={() => void save()} onClose={onClose} onEntered={() => input.current?.focus()}>
			<p className="second small-text">
				Saved: whose {screen}, closing when, filters, flags, {screen === "deals" ? "columns, " : ""}groups and sorting; but not the day shown.
			</p>
			<Form.Group controlId="view-name" className="mb-3">
				<Form.Label>Name</Form.Label>
				<Form.Control ref={input} value={name} maxLength={80} required autoFocus onChange={(event) => setName(event.target.value)} />
			</Form.Group>
			<Form.Check id="view-shared" label="Share it with my team and the teams below" checked={shared} onChange={(event) => setShared(event.target.checked)} />
		</FormDialog>
	);
}

function ManageDialog({ views, screen, onClose }: { views: readonly SavedView[]; screen: ViewScreen; onClose: () => void }) {
	// Long: one dialog, its lines in their order.
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const then = async (work: Promise<Outcome<unknown>>) => {
		const done = await work;
		if (!done.ok) notice({ words: done.detail });
		refresh();
	};
	const move = (i: number, step: number) => {
		const ids = views.map((view) => view.id);
		const [id] = ids.splice(i, 1);
		ids.splice(i + step, 0, id as string);
		void then(run("deals.orderViews", { ids, screen }));
	};
	return (
		<Modal show onHide={onClose} aria-labelledby="views-title">
			<Modal.Header closeButton>
				<Modal.Title id="views-title">Views</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				<ul className="rows">
					{views.map((view, i) => (
						<li key={view.id}>
							<span>
								<b>{view.name}</b>
								<span className="d-block tiny second">
									{view.own ? "yours" : `by ${view.by}`}
									{view.sharedWith && `, shared with ${view.sharedWith}`}
								</span>
							</span>
							<span className="d-flex gap-1 flex-wrap justify-content-end">
								<Button size="sm" variant="link" disabled={i === 0} aria-label={`${view.name} further up`} onClick={() => move(i, -1)}>
									Up
								</Button>
								<Button
									size="sm"
									variant="link"
									aria-pressed={view.opening}
									onClick={() => void then(run("deals.openWith", { id: view.opening ? null : view.id, screen }))}
								>
									{view.opening ? "Don’t open first" : "Open first"}
								</Button>
								{view.own && (
									<Button size="sm" variant="link" onClick={() => void then(run("deals.changeView", { id: view.id, shared: !view.sharedWith }))}>
										{view.sharedWith ? "Make private" : "Share"}
									</Button>
								)}
								{view.removable && (
									<Button
										size="sm"
										variant="link"
										onClick={() =>
											void then(run("deals.removeView", { id: view.id })).then(() =>
												notice({
													words: `“${view.name}” deleted.`,
													undo: async () => then(run("deals.saveView", { name: view.name, query: view.query, shared: view.sharedWith !== null, screen })),
												}),
											)
										}
									>
										Delete
									</Button>
								)}
							</span>
						</li>
					))}
				</ul>
			</Modal.Body>
		</Modal>
	);
}
