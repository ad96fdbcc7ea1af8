/** One deal's part in a step. Rows are −1 where there was no version; amounts are base minor units. */
export interface StepDeal {
	readonly deal: number;
	readonly rowA: number;
	readonly rowB: number;
	/** at A and at B, both at the rates of B */
	readonly before: number;
	readonly after: number;
	/** what it adds to the step, never negative for amounts that aren't */
	readonly amount: number;
}

/** Which of a deal's figures makes its part in a list. */
export type Measure = "before" | "after" | "gain" | "loss";

const FIRST_ROOM = 1024;

/** The deals a comparison touches, as columns that grow: lists name them by place. */
export class ChangeSet {
	private deal = new Int32Array(FIRST_ROOM);
	private rowA = new Int32Array(FIRST_ROOM);
	private rowB = new Int32Array(FIRST_ROOM);
	private before = new Float64Array(FIRST_ROOM);
	private after = new Float64Array(FIRST_ROOM);
	private count = 0;

	/** Takes a deal in and gives its place. */
	add(deal: number, rowA: number, rowB: number, before: number, after: number): number {
		const place = this.count++;
		if (place === this.deal.length) this.grow();
		this.deal[place] = deal;
		this.rowA[place] = rowA;
		this.rowB[place] = rowB;
		this.before[place] = before;
		this.after[place] = after;
		return place;
	}

	private grow(): void {
		const whole = (column: Int32Array) => {
			const next = new Int32Array(column.length * 2);
			next.set(column);
			return next;
		};
		const exact = (column: Float64Array) => {
			const next = new Float64Array(column.length * 2);
			next.set(column);
			return next;
		};
		[this.deal, this.rowA, this.rowB] = [whole(this.deal), whole(this.rowA), whole(this.rowB)];
		[this.before, this.after] = [exact(this.before), exact(this.after)];
	}

	amount(place: number, measure: Measure): number {
		const before = this.before[place] as number;
		const after = this.after[place] as number;
		if (measure === "before") return before;
		if (measure === "after") return after;
		return measure === "gain" ? after - before : before - after;
	}

	at(place: number, measure: Measure): StepDeal {
		return {
			deal: this.deal[place] as number,
			rowA: this.rowA[place] as number,
			rowB: this.rowB[place] as number,
			before: this.before[place] as number,
			after: this.after[place] as number,
			amount: this.amount(place, measure),
		};
	}
}

/** A step's deals in the order of their index: complete from the start, each spelt out when it is asked for. */
export class DealList implements Iterable<StepDeal> {
	private readonly places: number[] = [];
	private sum = 0;

	constructor(
		private readonly touched: ChangeSet,
		private readonly measure: Measure,
	) {}

	put(place: number): void {
		this.places.push(place);
		this.sum += this.touched.amount(place, this.measure);
	}

	get length(): number {
		return this.places.length;
	}

	/** the sum of the parts, base minor units */
	get amount(): number {
		return this.sum;
	}

	*[Symbol.iterator](): Iterator<StepDeal> {
		for (const place of this.places) yield this.touched.at(place, this.measure);
	}

	map<T>(make: (deal: StepDeal) => T): T[] {
		return this.places.map((place) => make(this.touched.at(place, this.measure)));
	}
}
