ALTER TABLE "tail" RENAME TO "change_log";--> statement-breakpoint
ALTER INDEX "tail_revision" RENAME TO "change_log_revision";--> statement-breakpoint
ALTER TABLE "packs" RENAME TO "snapshots";
