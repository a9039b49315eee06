namespace Walkdown.Server.Door;

/// <summary>The two marks that a browser keeps: its session, and itself. No script reads them, no other page sends them.</summary>
public static class Cookies
{
    private const string SessionName = "walkdown-session",
        DeviceName = "walkdown-browser";

    /// <summary>Over HTTPS the name itself says that only this address may set it, and only so.</summary>
    private static string Named(HttpContext http, string name) => http.Request.IsHttps ? "__Host-" + name : name;

    public static string? Session(HttpContext http) => http.Request.Cookies[Named(http, SessionName)];

    /// <summary>What this browser is known by; empty where it was never seen.</summary>
    public static string Device(HttpContext http) => http.Request.Cookies[Named(http, DeviceName)] is { Length: 64 } mark ? mark : "";

    public static void SetSession(HttpContext http, string key, DateTimeOffset until) => Set(http, SessionName, key, until);

    public static void SetDevice(HttpContext http, string mark) => Set(http, DeviceName, mark, DateTimeOffset.UtcNow.AddDays(400));

    public static void ForgetSession(HttpContext http) => http.Response.Cookies.Delete(Named(http, SessionName), Options(http));

    private static void Set(HttpContext http, string name, string value, DateTimeOffset until)
    {
        var options = Options(http);
        options.Expires = until;
        http.Response.Cookies.Append(Named(http, name), value, options);
    }

    private static CookieOptions Options(HttpContext http) =>
        new()
        {
            HttpOnly = true,
            Secure = http.Request.IsHttps,
            SameSite = SameSiteMode.Strict,
            Path = "/",
            IsEssential = true,
        };
}
