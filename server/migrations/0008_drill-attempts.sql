CREATE TABLE `attempts` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`body` text NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `attempts_of_station` ON `attempts` (`station_id`,`at`);