CREATE TABLE `runs` (
	`id` text PRIMARY KEY NOT NULL,
	`chain_id` text NOT NULL,
	`revision` integer NOT NULL,
	`body` text NOT NULL,
	`started_at` text NOT NULL,
	`changed_at` text NOT NULL,
	FOREIGN KEY (`chain_id`) REFERENCES `chains`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `runs_of_chain` ON `runs` (`chain_id`,`started_at`);