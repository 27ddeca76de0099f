ALTER TABLE `chain_revisions` ADD `save_key` text;--> statement-breakpoint
CREATE UNIQUE INDEX `revisions_by_key` ON `chain_revisions` (`chain_id`,`save_key`);--> statement-breakpoint
ALTER TABLE `readings` ADD `chain_revision` integer;--> statement-breakpoint
ALTER TABLE `stations` ADD `environment` text DEFAULT 'rural' NOT NULL;--> statement-breakpoint
ALTER TABLE `stations` ADD `currency` text DEFAULT 'EUR' NOT NULL;