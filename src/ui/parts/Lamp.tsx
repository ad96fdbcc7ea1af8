import type { Light } from "@/core/attention/attention";
import "./parts.css";

const WORDS: Record<Light, string> = { calm: "calm", watch: "watch", act: "act" };

/** The lantern: an outline when calm, low on watch, lit with rays when someone must act. */
export function Lamp({ level, size = 20 }: { level: Light; size?: number }) {
	return (
		<svg className={`lamp lamp-${level}`} width={size} height={size} viewBox="0 0 24 24" role="img" aria-label={`Lamp: ${WORDS[level]}`}>
			{level === "act" && <path className="lamp-ray" d="M2.2 6.2 5 8M1.4 13H4.6M21.8 6.2 19 8M22.6 13H19.4M12 .6V2.6" />}
			<path className="lamp-hood" d="M8.4 7.2h7.2M9.6 5h4.8" />
			<path className="lamp-glass" d="M8.3 7.6h7.4l1.7 10.2H6.6z" />
			{level === "watch" && <path className="lamp-low" d="M7.4 13h9.2l.8 4.8H6.6z" />}
			<path className="lamp-hood" d="M5.6 18.2h12.8M6.6 21h10.8" />
		</svg>
	);
}
