import type { Light } from "@/core/attention/attention";
import type { Spot } from "../table/dealPicture";

const RAYS = [0, 45, 90, 135, 180, 225, 270, 315];
/** letters of a label are about so wide, in pixels */
const LETTER = 6;

interface Props {
	readonly spot: Spot;
	readonly selected: boolean;
	readonly here: boolean;
	/** its name stands beside it */
	readonly named: boolean;
	/** where the picture ends */
	readonly right: number;
}

/** A deal's disc: hollow while calm, half full to be watched, full with rays where somebody must act; dashed where only its stage says its chance. */
export function DealMark({ spot: { deal, x, y, r }, selected, here, named, right }: Props) {
	const label = deal.name.length > 26 ? `${deal.name.slice(0, 25)}…` : deal.name;
	const before = x + r + 4 + label.length * LETTER > right;
	return (
		<g>
			{selected && <circle className="picture-selected" cx={x} cy={y} r={r + 5} />}
			{here && <circle className="picture-here" cx={x} cy={y} r={r + 8} />}
			<Shape level={deal.level} x={x} y={y} r={r} dashed={deal.by === "stage"} />
			{named && (
				<text className="picture-name" x={before ? x - r - 6 : x + r + 6} y={y + 4} textAnchor={before ? "end" : "start"}>
					{label}
				</text>
			)}
		</g>
	);
}

function Shape({ level, x, y, r, dashed }: { level: Light; x: number; y: number; r: number; dashed: boolean }) {
	return (
		<g className={`picture-deal picture-${level} ${dashed ? "picture-dashed" : ""}`}>
			{level === "act" &&
				RAYS.map((angle) => {
					const [dx, dy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
					return <line key={angle} className="picture-ray" x1={x + dx * (r + 2)} y1={y + dy * (r + 2)} x2={x + dx * (r + 5)} y2={y + dy * (r + 5)} />;
				})}
			<circle cx={x} cy={y} r={r} />
			{level === "watch" && <path className="picture-half" d={`M${x - r} ${y}a${r} ${r} 0 0 0 ${2 * r} 0z`} />}
		</g>
	);
}

const KEY: readonly (readonly [Light, boolean, string])[] = [
	["act", false, "act"],
	["watch", false, "watch"],
	["calm", false, "calm"],
	["calm", true, "chance of its stage alone"],
];

/** What the forms say. */
export function PictureKey() {
	return (
		<ul className="picture-key tiny second">
			{KEY.map(([level, dashed, words]) => (
				<li key={words}>
					<svg width={24} height={24} aria-hidden="true">
						<Shape level={level} x={12} y={12} r={6} dashed={dashed} />
					</svg>
					{words}
				</li>
			))}
			<li>the larger, the more it is worth</li>
		</ul>
	);
}
