CREATE TABLE "slate"."access_grant" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"table_id" uuid,
	"form_id" uuid,
	"role" text,
	"group_id" uuid,
	"person_id" uuid,
	"action" text NOT NULL,
	"where_rule" text,
	"columns" text[],
	"by_id" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "access_grant_on" CHECK (num_nonnulls("slate"."access_grant"."table_id", "slate"."access_grant"."form_id") = 1),
	CONSTRAINT "access_grant_to" CHECK (num_nonnulls("slate"."access_grant"."role", "slate"."access_grant"."group_id", "slate"."access_grant"."person_id") <= 1),
	CONSTRAINT "access_grant_action" CHECK (CASE WHEN "slate"."access_grant"."form_id" IS NULL THEN "slate"."access_grant"."action" IN ('see', 'add', 'change', 'remove', 'pick', 'design') ELSE "slate"."access_grant"."action" IN ('fill', 'see-all', 'design') END)
);
--> statement-breakpoint
CREATE TABLE "slate"."group_member" (
	"group_id" uuid NOT NULL,
	"person_id" uuid,
	"member_id" uuid,
	CONSTRAINT "group_member_one" CHECK (num_nonnulls("slate"."group_member"."person_id", "slate"."group_member"."member_id") = 1),
	CONSTRAINT "group_member_other" CHECK ("slate"."group_member"."member_id" IS DISTINCT FROM "slate"."group_member"."group_id")
);
--> statement-breakpoint
CREATE TABLE "slate"."invitation" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"by_id" uuid NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "slate"."person_group" (
	"id" uuid PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "person_group_label_unique" UNIQUE("label")
);
--> statement-breakpoint
ALTER TABLE "slate"."person" ADD COLUMN "manager_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."person" ADD COLUMN "deputy_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."person" ADD COLUMN "ended_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "slate"."access_grant" ADD CONSTRAINT "access_grant_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."access_grant" ADD CONSTRAINT "access_grant_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."access_grant" ADD CONSTRAINT "access_grant_group_id_person_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "slate"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."access_grant" ADD CONSTRAINT "access_grant_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."access_grant" ADD CONSTRAINT "access_grant_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."group_member" ADD CONSTRAINT "group_member_group_id_person_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "slate"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."group_member" ADD CONSTRAINT "group_member_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."group_member" ADD CONSTRAINT "group_member_member_id_person_group_id_fk" FOREIGN KEY ("member_id") REFERENCES "slate"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."invitation" ADD CONSTRAINT "invitation_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."invitation" ADD CONSTRAINT "invitation_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "access_grant_once" ON "slate"."access_grant" USING btree (coalesce("table_id", "form_id"),"action",coalesce("role", "group_id"::text, "person_id"::text, ''),coalesce("where_rule", ''));--> statement-breakpoint
CREATE UNIQUE INDEX "group_member_once" ON "slate"."group_member" USING btree ("group_id",coalesce("person_id", "member_id"));--> statement-breakpoint
ALTER TABLE "slate"."person" ADD CONSTRAINT "person_manager_id_person_id_fk" FOREIGN KEY ("manager_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."person" ADD CONSTRAINT "person_deputy_id_person_id_fk" FOREIGN KEY ("deputy_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
INSERT INTO slate.access_grant (table_id, role, person_id, action) SELECT table_id, role, person_id, action FROM slate.table_grant ON CONFLICT DO NOTHING;
--> statement-breakpoint
-- Until now every form was filled by everybody, and its owner designed it and saw what was sent.
INSERT INTO slate.access_grant (form_id, action) SELECT id, 'fill' FROM slate.form ON CONFLICT DO NOTHING;
--> statement-breakpoint
INSERT INTO slate.access_grant (form_id, person_id, action) SELECT f.id, f.owner_id, a.action FROM slate.form f, (VALUES ('see-all'), ('design')) AS a (action) ON CONFLICT DO NOTHING;
