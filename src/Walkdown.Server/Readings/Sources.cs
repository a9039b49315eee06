using Walkdown.Devices;

namespace Walkdown.Server.Readings;

/// <summary>The sources of measurements that the server asks; a new one is a line here.</summary>
public static class Sources
{
    /// <param name="at">Where tester and switches answer; null: nowhere, and everybody is told so.</param>
    public static void AddSources(this IServiceCollection services, Uri? at, TimeSpan patience)
    {
        services.AddSingleton(new MeasureSources.Settings(patience));
        services.AddSingleton<MeasureSources>();
        Http<TesterSource>(services, at);
        Http<SwitchSource>(services, at);
    }

    private static void Http<T>(IServiceCollection services, Uri? at)
        where T : class, IMeasureSource
    {
        services
            .AddHttpClient(
                typeof(T).Name,
                http =>
                {
                    http.BaseAddress = at ?? new Uri("http://127.0.0.1:9");
                    http.Timeout = Timeout.InfiniteTimeSpan;
                }
            )
            .ConfigurePrimaryHttpMessageHandler(() =>
                new SocketsHttpHandler
                {
                    // What answers in a source's place sends nobody anywhere else, and is heard no longer than a page.
                    AllowAutoRedirect = false,
                    UseCookies = false,
                    UseProxy = false,
                    MaxResponseHeadersLength = 16,
                    MaxConnectionsPerServer = 64,
                    ConnectTimeout = TimeSpan.FromSeconds(5),
                }
            )
            .SetHandlerLifetime(Timeout.InfiniteTimeSpan);
        services.AddSingleton<IMeasureSource>(from =>
            ActivatorUtilities.CreateInstance<T>(from, from.GetRequiredService<IHttpClientFactory>().CreateClient(typeof(T).Name))
        );
    }
}
