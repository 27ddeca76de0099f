CREATE TABLE `line_sweeps` (
	`id` text PRIMARY KEY NOT NULL,
	`chain_id` text NOT NULL,
	`chain_revision` integer NOT NULL,
	`before` text NOT NULL,
	`place` text NOT NULL,
	`read_at` text NOT NULL,
	`body` text NOT NULL,
	`point_count` integer NOT NULL,
	`points` blob NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`chain_id`) REFERENCES `chains`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `line_sweeps_of_chain` ON `line_sweeps` (`chain_id`,`read_at`);