"use client";
import { useState } from "react";
import { Button, Form, Modal } from "react-bootstrap";
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
		<Modal show onHide={onClose} aria-labelledby="tile-title">
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					onKeep({ ...tile, title, settings });
				}}
			>
				<Modal.Header closeButton>
					<Modal.Title id="tile-title">{kind?.words ?? "A tile"}</Modal.Title>
				</Modal.Header>
				<Modal.Body className="d-grid gap-3">
					<p className="second mb-0">{kind?.about ?? "This kind of tile no longer exists. Remove it."}</p>
					{kind?.settings.map(({ name, words, choices, long }) => (
						<Form.Group key={name} controlId={`tile-${name}`}>
							<Form.Label>{words}</Form.Label>
							{choices ? (
								<Form.Select value={settings[name] ?? ""} onChange={(event) => setSettings((now) => ({ ...now, [name]: event.target.value }))}>
									{!choices.length && <option value="">none yet</option>}
									{choices.map((choice) => (
										<option key={choice.value} value={choice.value}>
											{choice.words}
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
				</Modal.Body>
				<Modal.Footer>
					<Button variant="link" onClick={onClose}>
						Cancel
					</Button>
					<Button type="submit">Save</Button>
				</Modal.Footer>
			</Form>
		</Modal>
	);
}
