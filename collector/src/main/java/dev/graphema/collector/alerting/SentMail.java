package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertReceiver;
import jakarta.mail.Authenticator;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.PasswordAuthentication;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Date;
import java.util.Properties;

/** Delivers notices by mail (RFC 5321), encrypted if the server offers it. Thread-safe. */
final class SentMail {
    private static final String TIMEOUT_MILLIS = "10000";
    private static final String USUAL_PORT = "25";

    /** @throws IOException if the server does not accept it */
    void send(Notice notice, AlertReceiver.Mail receiver, Instant now) throws IOException {
        int colon = receiver.server().lastIndexOf(':');
        Properties settings = new Properties();
        settings.setProperty(
                "mail.smtp.host",
                colon < 0 ? receiver.server() : receiver.server().substring(0, colon));
        settings.setProperty(
                "mail.smtp.port", colon < 0 ? USUAL_PORT : receiver.server().substring(colon + 1));
        settings.setProperty("mail.smtp.starttls.enable", "true");
        settings.setProperty("mail.smtp.starttls.required", Boolean.toString(receiver.password() != null));
        settings.setProperty("mail.smtp.connectiontimeout", TIMEOUT_MILLIS);
        settings.setProperty("mail.smtp.timeout", TIMEOUT_MILLIS);
        settings.setProperty("mail.smtp.writetimeout", TIMEOUT_MILLIS);
        settings.setProperty("mail.smtp.auth", Boolean.toString(receiver.user() != null));
        Session session = Session.getInstance(settings, new Authenticator() {
            @Override
            protected PasswordAuthentication getPasswordAuthentication() {
                return new PasswordAuthentication(receiver.user(), receiver.password());
            }
        });
        try {
            MimeMessage message = new MimeMessage(session) {
                @Override
                protected void updateMessageID() throws MessagingException {
                    setHeader("Message-ID", "<" + notice.id() + "@graphema>"); // the same if it is repeated
                }
            };
            message.setFrom(new InternetAddress(receiver.from()));
            message.setRecipient(Message.RecipientType.TO, new InternetAddress(receiver.to()));
            message.setSubject(notice.subject(), StandardCharsets.UTF_8.name());
            message.setSentDate(Date.from(now));
            message.setText(notice.subject() + "\n\n" + notice.body() + "\n", StandardCharsets.UTF_8.name());
            Transport.send(message);
        } catch (MessagingException e) {
            throw new IOException("the mail server does not accept it: " + e.getMessage(), e);
        }
    }
}
