"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { FormDialog } from "@/ui/parts/FormDialog";
import type { Board } from "../server/boards";
import type { KindView } from "./shown";

type Tile = Board["tiles"][number];

interface Props {
	readonly tile: Tile;
	readonly kind: KindView | undefined;
	readonly onKeep: (tile: Tile) => void;
	readonly onClose: () => void;
}

/** What a tile shows, by its kind's own settings, and its title. */
export function TileDialog({ tile, kind, onKeep, onClose }: Props) {
	const [title, setTitle] = useState(tile.title);
	const [settings, setSettings] = useState<Record<string, string>>({ ...tile.settings });
	return (
		<FormDialog title={kind?.label ?? "A tile"} bodyClass="d-grid gap-3" onSave={() => onKeep({ ...tile, title, settings })} onClose={onClose}>
			<p className="second mb-0">{kind?.about ?? "This kind of tile no longer exists. Remove it."}</p>
			{kind?.settings.map(({ name, label, choices, long }) => (
				<Form.Group key={name} controlId={`tile-${name}`}>
					<Form.Label>{label}</Form.Label>
					{choices ? (
						<Form.Select value={settings[name] ?? ""} onChange={(event) => setSettings((now) => ({ ...now, [name]: event.target.value }))}>
							{!choices.length && <option value="">none yet</option>}
							{choices.map((choice) => (
								<option key={choice.value} value={choice.value}>
									{choice.label}
								</option>
							))}
						</Form.Select>
					) : (
						<Form.Control
							as={long ? "textarea" : "input"}
							{...(long ? { rows: 5 } : {})}
							value={settings[name] ?? ""}
							maxLength={4000}
							onChange={(event) => setSettings((now) => ({ ...now, [name]: event.target.value }))}
						/>
					)}
				</Form.Group>
			))}
			<Form.Group controlId="tile-own-title">
				<Form.Label>Title (left blank: what it shows)</Form.Label>
				<Form.Control value={title} maxLength={80} onChange={(event) => setTitle(event.target.value)} />
			</Form.Group>
		</FormDialog>
	);
}
