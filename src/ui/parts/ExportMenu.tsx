"use client";
import { useSearchParams } from "next/navigation";
import { Dropdown } from "react-bootstrap";

/** One form that something is exported in: a file at an address, or what makes it when it is chosen. */
export interface ExportForm {
	/** `CSV` */
	readonly name: string;
	readonly href?: string;
	readonly save?: () => void | Promise<void>;
}

/** The one menu by which tables and pages are exported, at the right of their head. */
export function ExportMenu({ forms, of, disabled = false }: { forms: readonly ExportForm[]; of?: string; disabled?: boolean }) {
	return (
		<Dropdown align="end" className="no-print d-inline-block">
			<Dropdown.Toggle size="sm" variant="outline-primary" disabled={disabled} aria-label={of ? `Export: ${of}` : undefined}>
				Export
			</Dropdown.Toggle>
			<Dropdown.Menu>
				{forms.map(({ name, href, save }) =>
					href ? (
						<Dropdown.Item key={name} href={href} download>
							{name}
						</Dropdown.Item>
					) : (
						<Dropdown.Item as="button" type="button" key={name} onClick={() => void save?.()}>
							{name}
						</Dropdown.Item>
					),
				)}
			</Dropdown.Menu>
		</Dropdown>
	);
}

/** Exports a table as the address shows it. `more` is added to the address; `of` names the table where a page has several. */
export function TableExport({
	table,
	more = {},
	of,
	also = [],
}: {
	table: string;
	more?: Readonly<Record<string, string>>;
	of?: string;
	also?: readonly ExportForm[];
}) {
	const params = useSearchParams();
	const address = (form: "csv" | "xlsx") => {
		const query = new URLSearchParams(params);
		for (const [name, value] of Object.entries(more)) query.set(name, value);
		query.set("form", form);
		return `/table/${table}?${query}`;
	};
	return <ExportMenu of={of} forms={[{ name: "CSV", href: address("csv") }, { name: "XLSX", href: address("xlsx") }, ...also]} />;
}
