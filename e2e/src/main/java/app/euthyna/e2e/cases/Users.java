package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** The demo users, each signed in once. */
record Users(String url, Map<String, Api> signedIn) {

    static Users at(String url) {
        return new Users(url, new ConcurrentHashMap<>());
    }

    Api as(String username) {
        return signedIn.computeIfAbsent(username, name -> Api.signIn(url, name, name));
    }
}
