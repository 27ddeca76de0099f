CREATE TABLE `antennas` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`name` text NOT NULL,
	`note` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `antennas_of_station` ON `antennas` (`station_id`);--> statement-breakpoint
CREATE TABLE `chain_revisions` (
	`chain_id` text NOT NULL,
	`revision` integer NOT NULL,
	`parent` integer,
	`document` text NOT NULL,
	`summary` text NOT NULL,
	`saved_at` text NOT NULL,
	`aside` integer NOT NULL,
	PRIMARY KEY(`chain_id`, `revision`),
	FOREIGN KEY (`chain_id`) REFERENCES `chains`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `revisions_by_parent` ON `chain_revisions` (`chain_id`,`parent`);--> statement-breakpoint
CREATE TABLE `chains` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `chains_of_station` ON `chains` (`station_id`);--> statement-breakpoint
CREATE TABLE `gear` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`body` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `gear_of_station` ON `gear` (`station_id`);--> statement-breakpoint
CREATE TABLE `stations` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`place` text NOT NULL,
	`note` text NOT NULL,
	`swr_limit` real NOT NULL,
	`created_at` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE TABLE `sweeps` (
	`id` text PRIMARY KEY NOT NULL,
	`antenna_id` text NOT NULL,
	`name` text NOT NULL,
	`added_at` text NOT NULL,
	`reference_ohm` real NOT NULL,
	`point_count` integer NOT NULL,
	`low_hz` real NOT NULL,
	`high_hz` real NOT NULL,
	`points` blob NOT NULL,
	FOREIGN KEY (`antenna_id`) REFERENCES `antennas`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sweeps_of_antenna` ON `sweeps` (`antenna_id`);