CREATE TABLE `duties` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`body` text NOT NULL,
	`declined` integer DEFAULT false NOT NULL,
	`changed_at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `duties_of_station` ON `duties` (`station_id`);--> statement-breakpoint
CREATE TABLE `duty_marks` (
	`id` text PRIMARY KEY NOT NULL,
	`duty_id` text NOT NULL,
	`kind` text NOT NULL,
	`on` text NOT NULL,
	`reason` text NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`duty_id`) REFERENCES `duties`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `marks_of_duty` ON `duty_marks` (`duty_id`);