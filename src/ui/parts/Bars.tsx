/** What is known of a deal: strength over coverage, and a tick where its stage expects it to be. */
export function Evidence({ strength, coverage, expected, width = 84 }: { strength: number; coverage: number; expected: number; width?: number }) {
	const words = `strength ${strength} of 100, coverage ${coverage}, expected ${expected} at this stage`;
	const x = (points: number) => (points * width) / 100;
	return (
		<svg className="bar" width={width} height={14} role="img" aria-label={words}>
			<title>{words}</title>
			<rect className="bar-ground" y={4} width={width} height={6} />
			<rect className="bar-pale" y={4} width={x(coverage)} height={6} />
			<rect className="bar-dusk" y={4} width={x(strength)} height={6} />
			<rect className="bar-tick" x={Math.min(width - 2, Math.max(0, x(expected) - 1))} y={1} width={2} height={12} />
		</svg>
	);
}

interface StageProps {
	readonly days: number;
	readonly usual: number;
	readonly limit: number;
	/** `nine of ten` */
	readonly most: string;
	readonly stage: string;
	readonly width?: number;
}

/** Days in a stage against what is usual: the tick is the usual half, amber begins where a deal is long in it: `most` of the won deals took no more. */
export function StageBar({ days, usual, limit, most, stage, width = 84 }: StageProps) {
	const full = Math.max(1, limit * 2);
	const x = (value: number) => (Math.min(value, full) * width) / full;
	const words = `${days} working days in ${stage}; usual ${Math.round(usual)}, ${most} take no more than ${Math.round(limit * 10) / 10}`;
	return (
		<svg className="bar" width={width} height={14} role="img" aria-label={words}>
			<title>{words}</title>
			<rect className="bar-ground" y={4} width={width} height={6} />
			<rect className={days > limit ? "bar-lamp" : "bar-series"} y={4} width={x(days)} height={6} />
			<rect className="bar-mark" x={x(usual) - 1} y={1} width={2} height={12} />
		</svg>
	);
}
