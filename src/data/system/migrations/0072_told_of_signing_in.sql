ALTER TABLE "slate"."account_mail" DROP CONSTRAINT "account_mail_kind";--> statement-breakpoint
ALTER TABLE "slate"."account_mail" ADD CONSTRAINT "account_mail_kind" CHECK ("slate"."account_mail"."kind" IN ('invited', 'forgotten', 'changed', 'signing-in', 'stuck'));
--> statement-breakpoint
-- Whoever signs in otherwise from now on is told, whoever it was that changed it.
CREATE FUNCTION slate.tell_signing_in() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO account_mail (person_id, kind) SELECT id, 'signing-in' FROM person WHERE id = CASE WHEN TG_OP = 'DELETE' THEN OLD.person_id ELSE NEW.person_id END;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER told_of_codes AFTER UPDATE OF verified ON slate.second_step FOR EACH ROW WHEN (NEW.verified AND NOT OLD.verified) EXECUTE FUNCTION slate.tell_signing_in();
--> statement-breakpoint
CREATE TRIGGER told_of_no_codes AFTER DELETE ON slate.second_step FOR EACH ROW WHEN (OLD.verified) EXECUTE FUNCTION slate.tell_signing_in();
--> statement-breakpoint
CREATE TRIGGER told_of_passkey AFTER INSERT OR DELETE ON slate.passkey FOR EACH ROW EXECUTE FUNCTION slate.tell_signing_in();
