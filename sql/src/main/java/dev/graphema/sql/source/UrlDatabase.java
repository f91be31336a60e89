package dev.graphema.sql.source;

import java.io.PrintWriter;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.Properties;
import java.util.logging.Logger;
import javax.sql.DataSource;

/** Connections by the driver for a JDBC URL. */
final class UrlDatabase implements DataSource {
    private static final String SECONDS = "30";

    private final String url;
    private final Properties properties = new Properties();

    UrlDatabase(String url, String user, String password) {
        this.url = url;
        if (user != null) {
            properties.setProperty("user", user);
        }
        if (password != null) {
            properties.setProperty("password", password);
        }
        if (url.startsWith("jdbc:postgresql:")) {
            properties.setProperty("connectTimeout", SECONDS); // names of its driver's own
            properties.setProperty("ApplicationName", "graphema");
        }
    }

    @Override
    public Connection getConnection() throws SQLException {
        return DriverManager.getConnection(url, properties);
    }

    @Override
    public Connection getConnection(String user, String password) throws SQLException {
        return DriverManager.getConnection(url, user, password);
    }

    @Override
    public PrintWriter getLogWriter() throws SQLException {
        throw new SQLFeatureNotSupportedException("there is no log");
    }

    @Override
    public void setLogWriter(PrintWriter out) throws SQLException {
        throw new SQLFeatureNotSupportedException("there is no log");
    }

    @Override
    public void setLoginTimeout(int seconds) throws SQLException {
        throw new SQLFeatureNotSupportedException("the time-out is fixed");
    }

    @Override
    public int getLoginTimeout() {
        return Integer.parseInt(SECONDS);
    }

    @Override
    public Logger getParentLogger() throws SQLFeatureNotSupportedException {
        throw new SQLFeatureNotSupportedException("there is no log");
    }

    @Override
    public <T> T unwrap(Class<T> type) throws SQLException {
        throw new SQLFeatureNotSupportedException("it wraps nothing");
    }

    @Override
    public boolean isWrapperFor(Class<?> type) {
        return false;
    }

    /** Returns the address without what could be a secret: parameters, and a user's name with a password. */
    @Override
    public String toString() {
        String shown = url.replaceAll("[?;].*", "");
        return shown.replaceAll("//[^/@]*@", "//");
    }
}
