"use client";
import type { ReactNode } from "react";
import { DealPanelSlot, DealPictureSlot, GiveSlot, StartRoundSlot } from "./deals/ui/slots";
import { DealPicture } from "./patterns/ui/DealPicture";
import { FlagRecordLine } from "./patterns/ui/FlagRecordLine";
import { DealRounds } from "./rounds/ui/DealRounds";
import { HoldRound } from "./rounds/ui/HoldRound";
import { SheetPanel } from "./sheet/ui/SheetPanel";
import { DealRoundsSlot, FlagRecordSlot } from "./sheet/ui/slots";
import { GiveDialog } from "./tasks/ui/GiveDialog";

/** What later capabilities show on a sheet. */
export function SheetSlots({ children }: { children: ReactNode }) {
	return (
		<DealRoundsSlot.Fill by={DealRounds}>
			<FlagRecordSlot.Fill by={FlagRecordLine}>{children}</FlagRecordSlot.Fill>
		</DealRoundsSlot.Fill>
	);
}

/** What later capabilities show on the list of deals. */
export function DealSlots({ children }: { children: ReactNode }) {
	return (
		<SheetSlots>
			<DealPanelSlot.Fill by={SheetPanel}>
				<GiveSlot.Fill by={GiveDialog}>
					<DealPictureSlot.Fill by={DealPicture}>
						<StartRoundSlot.Fill by={HoldRound}>{children}</StartRoundSlot.Fill>
					</DealPictureSlot.Fill>
				</GiveSlot.Fill>
			</DealPanelSlot.Fill>
		</SheetSlots>
	);
}
