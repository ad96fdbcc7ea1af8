"use client";
import { type Ref, type RefObject, useEffect, useImperativeHandle, useRef, useState } from "react";
import { Button, Form, InputGroup, Overlay, Popover } from "react-bootstrap";
import { DayPicker } from "react-day-picker";
import { formatDay, parseDay } from "@/core/time/day";
import { typedDay } from "@/core/time/typedDay";
import { dayNumber, longDate } from "../format";
import { useToday } from "../frame/today";
import "react-day-picker/style.css";
import "./dayField.css";

interface Props {
	/** ISO day, or empty */
	readonly value: string;
	readonly onDay: (iso: string) => void;
	readonly min?: string | undefined;
	readonly max?: string | undefined;
	readonly required?: boolean;
	readonly disabled?: boolean;
	readonly isInvalid?: boolean;
	readonly autoFocus?: boolean;
	readonly size?: "sm";
	readonly className?: string;
	readonly id?: string;
	readonly "aria-label"?: string;
	readonly "aria-describedby"?: string | undefined;
	readonly ref?: Ref<HTMLInputElement>;
}

const shown = (iso: string) => (iso ? longDate(iso) : "");
/** The picker's days are local dates. */
const asDate = (iso: string) => new Date(`${iso}T12:00:00`);
const asIso = (date: Date) =>
	`${String(date.getFullYear()).padStart(4, "0")}-${String(date.getMonth() + 1).padStart(2, "0")}-${String(date.getDate()).padStart(2, "0")}`;

/** Why a day can’t be taken, naming what was typed and what would be right; empty when it can. */
function wrong(typed: string, iso: string | null, { min, max, required }: Pick<Props, "min" | "max" | "required">): string {
	if (!typed.trim()) return required ? "Enter a day, such as 27 Nov, +3 or Fri." : "";
	if (iso === null) return `“${typed.trim()}” isn’t a day. Write it like 27 Nov, +3 or Fri.`;
	if (min && iso < min) return `${longDate(iso)} is too early: choose ${longDate(min)} or later.`;
	if (max && iso > max) return `${longDate(iso)} is too late: choose ${longDate(max)} or earlier.`;
	return "";
}

/** A day, typed as people write it (`27 nov`, `+3`, `fri`) or chosen in a calendar, and shown like every other day. */
export function DayField({ value, onDay, min, max, required = false, size, className = "", isInvalid, ref, ...rest }: Props) {
	const [open, setOpen] = useState(false);
	const input = useRef<HTMLInputElement>(null);
	const frame = useRef<HTMLDivElement>(null);
	useImperativeHandle(ref, () => input.current as HTMLInputElement);
	const { typed, fault, type, leave, choose } = useTypedDay({ value, onDay, min, max, required });
	useEffect(() => input.current?.setCustomValidity(fault), [fault]);
	const pick = (date: Date | undefined) => {
		setOpen(false);
		if (date) choose(asIso(date));
		input.current?.focus();
	};
	return (
		<InputGroup {...(size ? { size } : {})} className={`day-field ${className}`} ref={frame}>
			<Form.Control
				{...rest}
				ref={input}
				type="text"
				autoComplete="off"
				spellCheck={false}
				placeholder="27 Nov, +3, Fri"
				title={fault || "A day: 27 Nov, 27.11., +3 (days from today), Fri"}
				value={typed}
				isInvalid={isInvalid || (fault !== "" && typed.trim() !== "")}
				required={required}
				onChange={(event) => type(event.target.value)}
				onBlur={leave}
				onKeyDown={(event) => {
					if (event.key !== "ArrowDown" || !event.altKey) return;
					event.preventDefault();
					setOpen(true);
				}}
			/>
			<Button
				variant="outline-primary"
				className="day-field-open"
				aria-label="Calendar"
				aria-expanded={open}
				disabled={rest.disabled}
				onClick={() => setOpen(!open)}
			>
				<span aria-hidden="true">▾</span>
			</Button>
			<Calendar frame={frame} open={open} value={value} min={min} max={max} onPick={pick} onHide={() => setOpen(false)} />
		</InputGroup>
	);
}

/** A day as it is typed: what it reads as is given at once, and shown in the usual form when the field is left. */
function useTypedDay({ value, onDay, min, max, required }: Pick<Props, "value" | "onDay" | "min" | "max"> & { required: boolean }) {
	const today = useToday();
	const [typed, setTyped] = useState(shown(value));
	const known = useRef(value);
	const read = (text: string): string | null => {
		const day = typedDay(text, dayNumber(today), min ? (parseDay(min) ?? undefined) : undefined);
		return day === null ? null : formatDay(day);
	};
	// A value that comes from outside is shown; one's own is left as it is typed until the field is left.
	useEffect(() => {
		if (value === known.current) return;
		known.current = value;
		setTyped(shown(value));
	}, [value]);
	const give = (iso: string) => {
		known.current = iso;
		onDay(iso);
	};
	return {
		typed,
		fault: wrong(typed, typed === shown(value) ? value || null : read(typed), { min, max, required }),
		type: (text: string) => {
			setTyped(text);
			const iso = text.trim() ? read(text) : "";
			if (iso !== null && iso !== value) give(iso);
		},
		leave: () => {
			const iso = read(typed);
			if (iso !== null) setTyped(shown(iso));
		},
		choose: (iso: string) => {
			give(iso);
			setTyped(shown(iso));
		},
	};
}

interface CalendarProps extends Pick<Props, "value" | "min" | "max"> {
	readonly frame: RefObject<HTMLDivElement | null>;
	readonly open: boolean;
	/** undefined: nothing was chosen */
	readonly onPick: (date: Date | undefined) => void;
	readonly onHide: () => void;
}

/** The month to choose from, within the field: a dialog keeps the focus among what it holds. */
function Calendar({ frame, open, value, min, max, onPick, onHide }: CalendarProps) {
	const today = useToday();
	return (
		<Overlay target={frame} container={frame} popperConfig={{ strategy: "fixed" }} show={open} placement="bottom-start" rootClose onHide={onHide}>
			<Popover
				className="day-field-calendar"
				aria-label="Calendar"
				onKeyDown={(event) => {
					if (event.key !== "Escape") return;
					event.stopPropagation();
					onPick(undefined);
				}}
			>
				<DayPicker
					mode="single"
					autoFocus
					weekStartsOn={1}
					showOutsideDays
					fixedWeeks
					today={asDate(today)}
					defaultMonth={asDate(value || today)}
					selected={value ? asDate(value) : undefined}
					onSelect={onPick}
					disabled={[...(min ? [{ before: asDate(min) }] : []), ...(max ? [{ after: asDate(max) }] : [])]}
				/>
			</Popover>
		</Overlay>
	);
}
