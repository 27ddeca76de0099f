ALTER TABLE `readings` ADD `shown_forward_w` real;--> statement-breakpoint
ALTER TABLE `readings` ADD `shown_reflected_w` real;