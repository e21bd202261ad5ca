CREATE TABLE "slate"."form_picture" (
	"form_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"type" text NOT NULL,
	"bytes" "bytea" NOT NULL,
	"by_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "form_picture_form_id_id_pk" PRIMARY KEY("form_id","id")
);
--> statement-breakpoint
ALTER TABLE "slate"."form_picture" ADD CONSTRAINT "form_picture_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_picture" ADD CONSTRAINT "form_picture_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "form_picture_id" ON "slate"."form_picture" USING btree ("id");--> statement-breakpoint
-- Seen by those who fill the form, design it, or see something that was sent in it; brought by those who design it.
ALTER TABLE slate.form_picture ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY picture_seen ON slate.form_picture FOR SELECT USING (slate.owns_form(form_id) OR slate.may_form(form_id, 'fill') OR slate.may_form(form_id, 'design')
  OR slate.may_form(form_id, 'see-all') OR (SELECT slate.administers()) OR EXISTS (SELECT 1 FROM slate.submission s WHERE s.form_id = form_picture.form_id));
--> statement-breakpoint
CREATE POLICY picture_brought ON slate.form_picture FOR INSERT
  WITH CHECK (by_id = (SELECT slate.asking()) AND (slate.owns_form(form_id) OR slate.may_form(form_id, 'design') OR (SELECT slate.administers())));
