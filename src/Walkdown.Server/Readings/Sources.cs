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
        Source<TesterSource>(services, at);
        Source<SwitchSource>(services, at);
        Source<LinkSource>(services, at);
    }

    /// <summary>Who asks recorders for their lists.</summary>
    public const string Recorders = "recorders";

    private static void Source<T>(IServiceCollection services, Uri? at)
        where T : class, IMeasureSource
    {
        services.AddOutside(typeof(T).Name, at);
        services.AddSingleton<IMeasureSource>(from =>
            ActivatorUtilities.CreateInstance<T>(from, from.GetRequiredService<IHttpClientFactory>().CreateClient(typeof(T).Name))
        );
    }

    /// <summary>One who asks something outside that may be anything: it is sent nowhere else, and heard no longer than a page.</summary>
    /// <param name="name">Of the client.</param>
    /// <param name="at">Null: nowhere.</param>
    public static void AddOutside(this IServiceCollection services, string name, Uri? at) =>
        services
            .AddHttpClient(
                name,
                http =>
                {
                    http.BaseAddress = at ?? new Uri("http://127.0.0.1:9");
                    http.Timeout = Timeout.InfiniteTimeSpan;
                }
            )
            .ConfigurePrimaryHttpMessageHandler(() =>
                new SocketsHttpHandler
                {
                    AllowAutoRedirect = false,
                    UseCookies = false,
                    UseProxy = false,
                    MaxResponseHeadersLength = 16,
                    MaxConnectionsPerServer = 64,
                    ConnectTimeout = TimeSpan.FromSeconds(5),
                }
            )
            .SetHandlerLifetime(Timeout.InfiniteTimeSpan);
}
