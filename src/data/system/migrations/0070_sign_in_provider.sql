CREATE TABLE "slate"."provider_person" (
	"provider_id" uuid NOT NULL,
	"subject" text NOT NULL,
	"person_id" uuid NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "provider_person_provider_id_subject_pk" PRIMARY KEY("provider_id","subject")
);
--> statement-breakpoint
CREATE TABLE "slate"."sign_in_provider" (
	"only_one" boolean PRIMARY KEY DEFAULT true NOT NULL,
	"id" uuid NOT NULL,
	"label" text NOT NULL,
	"issuer" text NOT NULL,
	"client_id" text NOT NULL,
	"secret" "bytea" NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "sign_in_provider_id_unique" UNIQUE("id")
);
--> statement-breakpoint
ALTER TABLE "slate"."provider_person" ADD CONSTRAINT "provider_person_provider_id_sign_in_provider_id_fk" FOREIGN KEY ("provider_id") REFERENCES "slate"."sign_in_provider"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."provider_person" ADD CONSTRAINT "provider_person_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "provider_person_once" ON "slate"."provider_person" USING btree ("provider_id","person_id");
--> statement-breakpoint
CREATE FUNCTION slate.put_provider(with_id uuid, called text, at_issuer text, client text, kept bytea, expected integer) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE there sign_in_provider;
BEGIN
  PERFORM slate.only_administrators();
  SELECT * INTO there FROM sign_in_provider FOR UPDATE;
  IF coalesce(there.version, 0) <> expected THEN RETURN false; END IF;
  IF with_id IS NULL THEN
    DELETE FROM sign_in_provider;
    RETURN true;
  END IF;
  IF there.id IS NOT NULL AND there.id <> with_id THEN DELETE FROM sign_in_provider; END IF;
  INSERT INTO sign_in_provider (id, label, issuer, client_id, secret, version) VALUES (with_id, called, at_issuer, client, kept, expected + 1)
    ON CONFLICT (only_one) DO UPDATE SET label = called, issuer = at_issuer, client_id = client, secret = kept, version = expected + 1, updated_at = now();
  RETURN true;
END $$;
--> statement-breakpoint
-- By what the service calls somebody; the first time by the address it vouches for. Whoever is known there by another name is nobody else's address.
CREATE FUNCTION slate.let_in_by(provider uuid, called text, mail text) RETURNS uuid LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE who uuid;
BEGIN
  SELECT person_id INTO who FROM provider_person k WHERE k.provider_id = provider AND k.subject = called;
  IF NOT FOUND THEN
    SELECT p.id INTO who FROM person p WHERE mail <> '' AND lower(p.email) = lower(mail) AND p.roles <> '{}' AND p.ended_at IS NULL
      AND NOT EXISTS (SELECT 1 FROM provider_person k WHERE k.provider_id = provider AND k.person_id = p.id);
    IF who IS NULL THEN RETURN NULL; END IF;
    INSERT INTO provider_person (provider_id, subject, person_id) VALUES (provider, called, who) ON CONFLICT DO NOTHING;
    -- Of two first times at once, whoever was first.
    SELECT person_id INTO who FROM provider_person k WHERE k.provider_id = provider AND k.subject = called;
  END IF;
  RETURN (SELECT id FROM person WHERE id = who AND ended_at IS NULL);
END $$;
--> statement-breakpoint
CREATE TRIGGER trail_provider AFTER INSERT OR UPDATE OR DELETE ON slate.sign_in_provider FOR EACH ROW EXECUTE FUNCTION slate.note_trail('provider', 'label,issuer,client_id,secret!');
