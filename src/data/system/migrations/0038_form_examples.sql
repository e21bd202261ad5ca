CREATE TABLE "slate"."form_example" (
	"id" uuid PRIMARY KEY NOT NULL,
	"form_id" uuid NOT NULL,
	"label" text NOT NULL,
	"sender_id" uuid NOT NULL,
	"moment" text NOT NULL,
	"answers" jsonb NOT NULL,
	"outcome" jsonb NOT NULL,
	"kept_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."form_example" ADD CONSTRAINT "form_example_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_example" ADD CONSTRAINT "form_example_sender_id_person_id_fk" FOREIGN KEY ("sender_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_example" ADD CONSTRAINT "form_example_kept_by_person_id_fk" FOREIGN KEY ("kept_by") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "form_example_form" ON "slate"."form_example" USING btree ("form_id");--> statement-breakpoint
-- They may hold what somebody sent; those who design the form see them, and nobody else.
ALTER TABLE slate.form_example ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY example_of_designers ON slate.form_example USING (slate.owns_form(form_id) OR slate.may_form(form_id, 'design') OR (SELECT slate.administers()))
  WITH CHECK (slate.owns_form(form_id) OR slate.may_form(form_id, 'design') OR (SELECT slate.administers()));
