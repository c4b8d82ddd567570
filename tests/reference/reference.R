# Computes results.csv from tables.csv with R's own nonlinear least squares, for tests/analysis/reference_test.cpp:
#     Rscript reference.R        (in this folder; needs r-base-core alone)
# Per table, with the law that it is named after: the squared_residuals, every parameter, its standard error (jackknife over blocks, of
# the natural logarithm), and the root mean square error of predicting each place from the others.
tables <- read.csv("tables.csv")

# Costs from parameters on the log scale, in the order in which they are written.
laws <- list(
  linear = list(names = c("fixed", "slope"), cost = function(p, x) exp(p[1]) + exp(p[2]) * x),
  n_log_n = list(names = c("fixed", "slope"), cost = function(p, x) exp(p[1]) + exp(p[2]) * x * log2(1 + x)),
  quadratic = list(names = c("fixed", "slope"), cost = function(p, x) exp(p[1]) + exp(p[2]) * x^2),
  linear_and_quadratic = list(names = c("fixed", "slope", "second"),
                              cost = function(p, x) exp(p[1]) + exp(p[2]) * x + exp(p[3]) * x^2),
  power = list(names = c("fixed", "slope", "exponent"), cost = function(p, x) exp(p[1]) + exp(p[2]) * x^exp(p[3])),
  one_knee = list(names = c("fixed", "slope", "second", "knee"),
                  cost = function(p, x) exp(p[1]) + exp(p[2]) * pmin(x, exp(p[4])) + exp(p[3]) * pmax(x - exp(p[4]), 0)))

# Where the search starts: rough slopes at both ends, and several shapes.
starts <- function(name, x, y) {
  n <- length(x)
  fixed <- log(exp(y[1]) / 2)
  slope <- function(column) y[n] - log(column(x[n]))
  switch(name,
    linear = list(c(fixed, slope(function(x) x))),
    n_log_n = list(c(fixed, slope(function(x) x * log2(1 + x)))),
    quadratic = list(c(fixed, slope(function(x) x^2))),
    linear_and_quadratic = list(c(fixed, slope(function(x) 2 * x), slope(function(x) 2 * x^2))),
    power = lapply(c(0.7, 1, 1.3, 1.6), function(e) c(fixed, slope(function(x) x^e), log(e))),
    one_knee = lapply(x[3:(n - 2)] * 1.2, function(k) c(fixed, slope(function(x) 2 * x), slope(function(x) x), log(k))))
}

fit <- function(name, x, y) {
  cost <- laws[[name]]$cost
  squared_residuals <- function(p) sum((log(cost(p, x)) - y)^2)
  best <- NULL
  for (start in starts(name, x, y)) {
    found <- optim(start, squared_residuals, method = "Nelder-Mead", control = list(maxit = 20000, reltol = 1e-14))
    found <- optim(found$par, squared_residuals, method = "BFGS", control = list(maxit = 5000, reltol = 1e-16))
    polished <- tryCatch(
      coef(nls(y ~ log(cost(p, x)), start = list(p = found$par),
               control = nls.control(tol = 1e-9, maxiter = 200, scaleOffset = 1, nDcentral = TRUE))),
      error = function(e) found$par)
    if (squared_residuals(polished) > found$value) polished <- found$par
    if (is.null(best) || squared_residuals(polished) < best$squared_residuals) best <- list(p = unname(polished), squared_residuals = squared_residuals(polished))
  }
  best
}

means_without <- function(table, blocks) {
  rest <- table[!(table$block %in% blocks), ]
  tapply(log(rest$ms), rest$x, mean)
}

results <- data.frame()
note <- function(table, what, value) results <<- rbind(results, data.frame(table = table, what = what, value = format(value, digits = 12)))

for (name in unique(tables$table)) {
  table <- tables[tables$table == name, ]
  y <- means_without(table, c())
  x <- as.numeric(names(y))
  y <- as.numeric(y)
  all <- fit(name, x, y)
  note(name, "squared_residuals", all$squared_residuals)
  blocks <- unique(table$block)
  without <- sapply(blocks, function(block) fit(name, x, as.numeric(means_without(table, block)))$p)
  errors <- sqrt((length(blocks) - 1) / length(blocks) * rowSums((without - rowMeans(without))^2))
  for (i in seq_along(laws[[name]]$names)) {
    note(name, laws[[name]]$names[i], exp(all$p[i]))
    note(name, paste0("error_of_", laws[[name]]$names[i]), errors[i])
  }
  left_out <- sapply(seq_along(x), function(i) log(laws[[name]]$cost(fit(name, x[-i], y[-i])$p, x[i])) - y[i])
  note(name, "left_out_error", sqrt(mean(left_out^2)))
}
write.csv(results, "results.csv", row.names = FALSE, quote = FALSE)
