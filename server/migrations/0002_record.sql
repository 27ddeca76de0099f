CREATE TABLE `events` (
	`id` text PRIMARY KEY NOT NULL,
	`chain_id` text NOT NULL,
	`on` text NOT NULL,
	`text` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`chain_id`) REFERENCES `chains`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `events_of_chain` ON `events` (`chain_id`);--> statement-breakpoint
CREATE TABLE `measurements` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`kind` text NOT NULL,
	`title` text NOT NULL,
	`chain_id` text,
	`stage_id` text,
	`inputs` text NOT NULL,
	`result` text,
	`note` text NOT NULL,
	`measured_at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `measurements_of_station` ON `measurements` (`station_id`,`measured_at`);--> statement-breakpoint
CREATE TABLE `readings` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`chain_id` text NOT NULL,
	`round_id` text NOT NULL,
	`channel_id` text,
	`frequency_hz` real NOT NULL,
	`mode` text NOT NULL,
	`mean_to_peak` real,
	`power_w` real NOT NULL,
	`before` text NOT NULL,
	`place` text NOT NULL,
	`forward_w` real,
	`reflected_w` real,
	`swr` real,
	`range_w` real,
	`instrument_id` text,
	`instrument` text NOT NULL,
	`supply_v` real,
	`weather` text NOT NULL,
	`by` text NOT NULL,
	`note` text NOT NULL,
	`read_at` text NOT NULL,
	`expected_w` real,
	`low_w` real,
	`high_w` real,
	`expected_swr` real,
	`low_swr` real,
	`high_swr` real,
	`inside` integer NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`chain_id`) REFERENCES `chains`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`round_id`) REFERENCES `rounds`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `readings_of_station` ON `readings` (`station_id`,`read_at`);--> statement-breakpoint
CREATE INDEX `readings_of_chain` ON `readings` (`chain_id`,`channel_id`,`read_at`);--> statement-breakpoint
CREATE INDEX `readings_of_round` ON `readings` (`round_id`);--> statement-breakpoint
CREATE TABLE `rounds` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`chain_id` text NOT NULL,
	`started_at` text NOT NULL,
	`last_at` text NOT NULL,
	`note` text NOT NULL,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`chain_id`) REFERENCES `chains`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `rounds_of_chain` ON `rounds` (`chain_id`,`last_at`);