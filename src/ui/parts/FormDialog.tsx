"use client";
import { type ReactNode, useId } from "react";
import { Alert, Button, Form, Modal } from "react-bootstrap";

interface Props {
	readonly title: string;
	readonly onSave: () => unknown;
	readonly onClose: () => void;
	/** why it couldn’t be saved */
	readonly error?: string | null;
	/** what the button says */
	readonly label?: string;
	/** as it stands it can’t be saved */
	readonly not?: boolean;
	readonly size?: "sm" | "lg";
	readonly bodyClass?: string;
	/** at the left of the buttons */
	readonly beside?: ReactNode;
	readonly onEntered?: () => void;
	readonly children: ReactNode;
}

/** A dialog that is a form: its title, what is wrong, its fields, and to save or leave it. */
export function FormDialog({ title, onSave, onClose, error, label = "Save", not = false, size, bodyClass, beside, onEntered, children }: Props) {
	const id = useId();
	return (
		<Modal show onHide={onClose} aria-labelledby={id} {...(size ? { size } : {})} {...(onEntered ? { onEntered } : {})}>
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					onSave();
				}}
			>
				<Modal.Header closeButton>
					<Modal.Title id={id}>{title}</Modal.Title>
				</Modal.Header>
				<Modal.Body className={bodyClass ?? ""}>
					{error && (
						<Alert variant="danger" role="alert">
							{error}
						</Alert>
					)}
					{children}
				</Modal.Body>
				<Modal.Footer>
					{beside}
					<Button variant="link" onClick={onClose}>
						Cancel
					</Button>
					<Button type="submit" disabled={not}>
						{label}
					</Button>
				</Modal.Footer>
			</Form>
		</Modal>
	);
}
