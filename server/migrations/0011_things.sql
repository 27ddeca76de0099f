CREATE TABLE `things` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`body` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `things_of_station` ON `things` (`station_id`);